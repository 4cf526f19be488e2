package tidybridge.core.compile;

import java.math.BigDecimal;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Askable;
import tidybridge.core.bind.ValueReader;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.pattern.TextPattern;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.text.Nearest;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the parameters of an operation tell by themselves, and beside its path. */
final class ParameterCheck {

    private static final Set<String> RESERVED_HEADERS = Set.of(
            "accept",
            "authorization",
            "content-length",
            "content-type",
            "cookie",
            "host",
            "proxy-authorization",
            "transfer-encoding");

    /** The console's own. */
    private static final String SESSION_COOKIE = "tidy_session";

    private static final String EXAMPLE = "example";

    private final OperationScope scope;
    private final PathTemplate path;
    private final OperationDefinition operation;
    private final Findings findings;

    ParameterCheck(OperationScope scope) {
        this.scope = scope;
        this.path = scope.path();
        this.operation = scope.operation();
        this.findings = scope.findings();
    }

    void check() {
        Set<String> wireNames = new HashSet<>();
        for (ParameterDefinition parameter : operation.parameters()) {
            checkWireName(parameter, wireNames);
            checkReserved(parameter);
            checkTexts(parameter);
            checkDescription(parameter);
            checkPatch(parameter);
        }
        checkBody();
        checkPlaceholders();
    }

    /** What belongs to HTTP or to the service itself is no input of an operation. */
    private void checkReserved(ParameterDefinition parameter) {
        boolean reserved = switch (parameter.in()) {
            case HEADER -> RESERVED_HEADERS.contains(parameter.wireName().toLowerCase(Locale.ROOT));
            case COOKIE -> parameter.wireName().equals(SESSION_COOKIE);
            case PATH, QUERY, BODY, FORM, CALLER, REQUEST -> false;
        };
        if (reserved) {
            findings.add(
                    Code.PARAMETER_RESERVED,
                    parameter.place(),
                    "'" + parameter.wireName() + "' carries credentials or belongs to HTTP itself, and is never bound.",
                    "Take who calls from 'in: caller', or give the parameter another name.");
        }
    }

    private void checkWireName(ParameterDefinition parameter, Set<String> wireNames) {
        if (!wireNames.add(parameter.in() + " " + parameter.wireName())) {
            findings.add(
                    Code.PARAMETER_TWICE,
                    parameter.place(),
                    "Two parameters are called '" + parameter.wireName() + "' in the request.",
                    "Use one of them twice in the statement, or give it another 'name:'.");
        }
        if (parameter.in() == In.QUERY && Askable.names(operation).contains(parameter.wireName())) {
            findings.add(
                    Code.PARAMETER_RESERVED,
                    parameter.place(),
                    "'" + parameter.wireName() + "' is what callers ask the service itself with here.",
                    "Give the parameter another name, or set 'name:' to what callers shall write.");
        }
    }

    private void checkTexts(ParameterDefinition parameter) {
        ListRule list = parameter.list();
        if (list != null) {
            checkLimits(parameter, list.type(), list.constraints());
            String example = parameter.example();
            if (list.type() == ParameterType.OBJECT) {
                checkObjects(parameter, example == null ? "[]" : "[" + example + "]");
            } else {
                for (String item : example == null ? new String[0] : example.split(",", -1)) {
                    checkText(parameter, EXAMPLE, item, new ValueReader(list.type(), list.constraints()));
                }
            }
            if (list.minItems() > list.maxItems()) {
                unfit(parameter, "needs more items than it may have", "Swap 'minItems' and 'maxItems'.");
            }
            return;
        }
        checkLimits(parameter, parameter.type(), parameter.constraints());
        if (parameter.type() == ParameterType.OBJECT) {
            String example = parameter.example();
            checkObjects(parameter, example == null ? "[]" : "[" + example + "]");
        } else {
            ValueReader reader = new ValueReader(parameter.type(), parameter.constraints());
            checkText(parameter, "default", parameter.defaultText(), reader);
            checkText(parameter, EXAMPLE, parameter.example(), reader);
        }
    }

    private void checkLimits(ParameterDefinition parameter, ParameterType type, Constraints limits) {
        ValueReader bare = new ValueReader(type, limits.withoutAllowed());
        for (String allowed : limits.allowed()) {
            checkText(parameter, "enum", allowed, bare);
        }
        BigDecimal minimum = limits.minimum();
        BigDecimal maximum = limits.maximum();
        if (minimum != null && maximum != null && minimum.compareTo(maximum) > 0) {
            unfit(parameter, "has a minimum above its maximum", "Swap them.");
        }
        checkPattern(parameter, limits);
        if (!type.isNumber() && limits.limitsNumbers()) {
            unfit(parameter, "has a minimum or maximum, which only numbers can have", "Remove it, or change the type.");
        }
    }

    private void checkPattern(ParameterDefinition parameter, Constraints limits) {
        TextPattern pattern = limits.pattern();
        if (pattern != null && ValueReader.longest(limits.maxLength()) > pattern.longestText()) {
            findings.add(
                    Code.PATTERN_COSTLY,
                    parameter.place(),
                    "The pattern of '" + parameter.name() + "' can be compared with texts of at most "
                            + pattern.longestText() + " characters; longer ones are refused.",
                    "Write 'maxLength: " + pattern.longestText() + "' or less.");
        }
    }

    /** Examples of objects, as one JSON array. */
    private void checkObjects(ParameterDefinition parameter, String examples) {
        if (!scope.asksForEveryForm()) {
            return;
        }
        try {
            JsonNode read = JsonMapper.shared().readTree(examples);
            if (read.valueStream().allMatch(JsonNode::isObject)) {
                return;
            }
        } catch (JacksonException e) {
            // told below
        }
        unfit(
                parameter,
                "has an example that is no JSON object",
                "Write it as '{\"name\": \"value\"}', in single quotes.");
    }

    private void checkText(ParameterDefinition parameter, String key, @Nullable String text, ValueReader reader) {
        // an example only explains; a release goes on being served when we understand its type more strictly than
        // before
        boolean needless = key.equals(EXAMPLE) && !scope.asksForEveryForm();
        if (text == null || needless) {
            return;
        }
        try {
            reader.read(text);
        } catch (ValueReader.Unfit e) {
            unfit(
                    parameter,
                    "has a value under '" + key + "' that does not fit: it " + e.clause(),
                    "Mend '" + key + "' or the type.");
        }
    }

    /** What the reference cannot explain by itself. */
    private void checkDescription(ParameterDefinition parameter) {
        Constraints limits = parameter.constraints();
        boolean plain = limits.allowed().isEmpty() && parameter.type() != ParameterType.BOOLEAN;
        if (parameter.in().sent() && parameter.example() == null && parameter.defaultText() == null && plain) {
            findings.add(
                    Code.EXAMPLE_MISSING,
                    parameter.place(),
                    "The parameter '" + parameter.wireName() + "' has no example for the reference to show.",
                    "Add 'example: ...'.");
        }
        DeprecationCheck.check(
                "The parameter '" + parameter.wireName() + "'", parameter.place(), parameter.deprecated(), findings);
    }

    /** A default would change what the caller left out to be left alone. */
    private void checkPatch(ParameterDefinition parameter) {
        boolean body = parameter.in() == In.BODY || parameter.in() == In.FORM;
        if (operation.method() == Method.PATCH && body && parameter.defaultText() != null) {
            findings.add(
                    Code.PATCH_DEFAULT,
                    parameter.place(),
                    "A partial update leaves alone what its body does not name, and '" + parameter.wireName()
                            + "' has a default that would be written instead.",
                    "Remove the default.");
        }
    }

    private void checkBody() {
        boolean whole = false;
        int parts = 0;
        boolean form = false;
        ParameterDefinition first = null;
        for (ParameterDefinition parameter : operation.parameters()) {
            if (parameter.in() == In.BODY || parameter.in() == In.FORM) {
                first = first == null ? parameter : first;
                form |= parameter.in() == In.FORM;
                whole |= parameter.in() == In.BODY && parameter.wireName().isEmpty();
                parts += parameter.in() == In.BODY ? 1 : 0;
            }
        }
        if (first != null && !operation.method().takesBody()) {
            findings.add(
                    Code.BODY_UNEXPECTED,
                    first.place(),
                    "A " + operation.method() + " request has no body to take '" + first.name() + "' from.",
                    "Take it from the query, or write the operation under 'post:'.");
        }
        if (first != null && (form && parts > 0 || whole && parts > 1)) {
            findings.add(
                    Code.BODY_MIXED,
                    first.place(),
                    form
                            ? "A request's body is JSON or a form, and the parameters want both."
                            : "One parameter takes the whole body, and others take parts of it.",
                    "Take all of them in one way.");
        }
    }

    private void unfit(ParameterDefinition parameter, String clause, String remedy) {
        findings.add(
                Code.CONSTRAINT_UNFIT,
                parameter.place(),
                "The parameter '" + parameter.name() + "' " + clause + ".",
                remedy);
    }

    private void checkPlaceholders() {
        Set<String> pathNames = operation.parameters().stream()
                .filter(parameter -> parameter.in() == In.PATH)
                .map(ParameterDefinition::wireName)
                .collect(Collectors.toSet());
        for (String placeholder : path.placeholders()) {
            if (!pathNames.contains(placeholder)) {
                findings.add(
                        Code.PLACEHOLDER_UNDEFINED,
                        operation.place(),
                        "The placeholder {" + placeholder + "} has no parameter.",
                        "Add '" + placeholder + ": { in: path, type: integer }' under 'parameters:'.");
            }
        }
        for (ParameterDefinition parameter : operation.parameters()) {
            if (parameter.in() == In.PATH && !path.placeholders().contains(parameter.wireName())) {
                findings.add(
                        Code.PLACEHOLDER_UNUSED,
                        parameter.place(),
                        "The route has no placeholder {" + parameter.wireName() + "}."
                                + Nearest.hint(parameter.wireName(), path.placeholders()),
                        "Add it to the route, or take the parameter from elsewhere.");
            }
        }
    }
}
