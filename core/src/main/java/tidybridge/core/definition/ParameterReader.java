package tidybridge.core.definition;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.pattern.TextPattern;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Node;

/** Reads the {@code parameters} of an operation. */
final class ParameterReader {

    static final List<String> ITEM_KEYS = List.of(
            "type",
            "format",
            "minimum",
            "maximum",
            "exclusiveMinimum",
            "exclusiveMaximum",
            "multipleOf",
            "minLength",
            "maxLength",
            "pattern",
            "enum");
    static final List<String> KEYS = keys();

    /** What a parameter {@code in: caller} can be. */
    static final List<String> CALLER_NAMES = List.of("name", "client", "roles", "privileges", "address");

    /** Of a caller, what the token says of them. */
    private static final Pattern CLAIM = Pattern.compile("claim\\.[A-Za-z0-9_.:/-]{1,100}");

    /** What a parameter {@code in: request} can be. */
    static final List<String> REQUEST_NAMES = List.of("id", "time");

    private static final int LONGEST_TEXT = 1_000_000;
    private static final int MOST_DIGITS = 100;

    private final Findings findings;

    ParameterReader(Findings findings) {
        this.findings = findings;
    }

    private static List<String> keys() {
        List<String> keys = new ArrayList<>(
                List.of("in", "name", "pointer", "required", "nullable", "deprecated", "about", "default", "example"));
        keys.addAll(ITEM_KEYS);
        keys.addAll(List.of("items", "minItems", "maxItems", "uniqueItems"));
        return List.copyOf(keys);
    }

    List<ParameterDefinition> read(Node node) {
        List<ParameterDefinition> parameters = new ArrayList<>();
        MappingReader.openAny(node, "parameters", findings).ifPresent(names -> {
            for (Node.Entry entry : names.entries()) {
                if (!entry.key().matches("[A-Za-z_][A-Za-z0-9_]{0,63}")) {
                    names.unfit(entry.key(), "is no parameter name", "Use letters, digits and underscores.");
                }
                parameter(entry).ifPresent(parameters::add);
            }
        });
        return parameters;
    }

    private Optional<ParameterDefinition> parameter(Node.Entry entry) {
        return MappingReader.open(entry.value(), "a parameter", findings, KEYS).map(keys -> {
            if (keys.node("in") == null) {
                keys.required("in", "Add 'in: query', 'in: path', 'in: body' or another place.");
            }
            In read = keys.oneOf("in", In.class, In.QUERY);
            In in = read == null ? In.QUERY : read;
            ParameterType type = in.sent() ? type(keys) : known(in, wireName(entry.key(), in, keys));
            return new ParameterDefinition(
                    entry.key(),
                    wireName(entry.key(), in, keys),
                    entry.place(),
                    in,
                    type,
                    !in.sent() || keys.node("type") != null,
                    in == In.PATH || keys.flag("required"),
                    nullable(in, keys),
                    keys.text("about"),
                    defaultText(type, keys),
                    example(type, keys),
                    constraints(keys),
                    in.sent() ? list(type, keys) : callersRoles(type),
                    new DeprecationReader(keys, findings).read(DeprecationReader.Of.NAME));
        });
    }

    /** The name in the request; each place has its own kind. */
    private String wireName(String name, In in, MappingReader keys) {
        if (in != In.BODY && keys.node("pointer") != null) {
            keys.unfit("pointer", "is for a part of the body only", "Write 'in: body', or use 'name:'.");
        }
        String given = in == In.BODY ? null : keys.text("name");
        return switch (in) {
            case PATH, QUERY, HEADER, COOKIE, FORM -> given == null ? name : given;
            case BODY -> pointer(name, keys);
            case CALLER -> isClaim(given) ? String.valueOf(given) : oneOf(name, given, CALLER_NAMES, keys);
            case REQUEST -> oneOf(name, given, REQUEST_NAMES, keys);
        };
    }

    private static String pointer(String name, MappingReader keys) {
        Node node = keys.node("pointer");
        if (node == null) {
            String plain = keys.text("name");
            return "/" + (plain == null ? name : plain).replace("~", "~0").replace("/", "~1");
        }
        String pointer = node instanceof Node.Scalar scalar ? scalar.text() : "?";
        if (!pointer.matches("(/([^~/]|~0|~1)*)*")) {
            keys.unfit("pointer", "is no JSON Pointer", "Write it as '/skipper/name', or '' for the whole body.");
        }
        return pointer;
    }

    private static boolean isClaim(@Nullable String given) {
        return given != null && CLAIM.matcher(given).matches();
    }

    private static String oneOf(String name, @Nullable String given, List<String> known, MappingReader keys) {
        String chosen = given == null ? name : given;
        if (!known.contains(chosen)) {
            keys.unfit(
                    "name",
                    "must say what is taken, and cannot be '" + chosen + "'." + Nearest.hint(chosen, known),
                    "Use one of: " + String.join(", ", known)
                            + (known == CALLER_NAMES ? ", or a claim of the token as claim.NAME." : "."));
            return known.getFirst();
        }
        return chosen;
    }

    private static ParameterType known(In in, String name) {
        if (in == In.REQUEST && name.equals("time")) {
            return ParameterType.DATE_TIME;
        }
        return name.equals("roles") || name.equals("privileges") ? ParameterType.ARRAY : ParameterType.STRING;
    }

    private static @Nullable ListRule callersRoles(ParameterType type) {
        return type == ParameterType.ARRAY
                ? new ListRule(ParameterType.STRING, Constraints.NONE, 0, ListRule.CEILING, true)
                : null;
    }

    /** {@code type: date}, or in the longer way {@code type: string} with {@code format: date}. */
    private ParameterType type(MappingReader keys) {
        if (keys.node("type") == null) {
            keys.required("type", "Add 'type: string' or another type; './tidy propose' finds it in the catalog.");
        }
        ParameterType type = keys.oneOf("type", ParameterType.class, ParameterType.STRING);
        if (keys.node("format") == null) {
            return type == null ? ParameterType.STRING : type;
        }
        ParameterType format = keys.oneOf("format", ParameterType.class, ParameterType.STRING);
        if (type != ParameterType.STRING || format == null || !format.isFormat()) {
            keys.unfit(
                    "format",
                    "is a kind of string",
                    "Write 'type: string' with one of: date, time, date-time, date-time-local, uuid, email, byte.");
            return type == null ? ParameterType.STRING : type;
        }
        return format;
    }

    private static boolean nullable(In in, MappingReader keys) {
        boolean nullable = keys.flag("nullable");
        if (nullable && in != In.BODY) {
            keys.unfit("nullable", "is for parts of a JSON body only", "Remove it; nothing else can say null.");
        }
        return nullable && in == In.BODY;
    }

    private static @Nullable String defaultText(ParameterType type, MappingReader keys) {
        boolean compound = type == ParameterType.ARRAY || type == ParameterType.OBJECT;
        if (compound && keys.node("default") != null) {
            keys.unfit("default", "is for single values only", "Remove it; an absent list or object is just absent.");
            return null;
        }
        return compound ? null : keys.text("default");
    }

    private static @Nullable String example(ParameterType type, MappingReader keys) {
        if (type == ParameterType.ARRAY && keys.node("example") != null) {
            return keys.texts("example").stream().map(Node.Scalar::text).collect(Collectors.joining(","));
        }
        return keys.text("example");
    }

    private @Nullable ListRule list(ParameterType type, MappingReader keys) {
        if (type != ParameterType.ARRAY) {
            for (String key : List.of("items", "minItems", "maxItems", "uniqueItems")) {
                if (keys.node(key) != null) {
                    keys.unfit(key, "is for lists only", "Remove it, or write 'type: array'.");
                }
            }
            return null;
        }
        Node node = keys.node("items");
        if (node == null) {
            keys.required("items", "Add 'items: { type: integer }', what each item of the list is.");
        }
        Optional<MappingReader> items =
                node == null ? Optional.empty() : MappingReader.open(node, "an item", findings, ITEM_KEYS);
        ParameterType itemType = items.map(this::type).orElse(ParameterType.STRING);
        if (itemType == ParameterType.ARRAY) {
            keys.unfit("items", "cannot be lists themselves", "Take the list as 'type: object' of the whole body.");
        }
        Integer least = keys.wholeNumber("minItems", 0, ListRule.CEILING);
        Integer most = keys.wholeNumber("maxItems", 1, ListRule.CEILING);
        return new ListRule(
                itemType,
                items.map(this::constraints).orElse(Constraints.NONE),
                least == null ? 0 : least,
                most == null ? ListRule.DEFAULT_MOST : most,
                keys.flag("uniqueItems"));
    }

    private Constraints constraints(MappingReader keys) {
        return new Constraints(
                number(keys, "minimum"),
                number(keys, "maximum"),
                number(keys, "exclusiveMinimum"),
                number(keys, "exclusiveMaximum"),
                number(keys, "multipleOf"),
                keys.wholeNumber("minLength", 0, LONGEST_TEXT),
                keys.wholeNumber("maxLength", 0, LONGEST_TEXT),
                pattern(keys),
                keys.texts("enum").stream().map(Node.Scalar::text).toList());
    }

    private @Nullable BigDecimal number(MappingReader keys, String key) {
        String text = keys.text(key);
        if (text == null) {
            return null;
        }
        try {
            BigDecimal number = new BigDecimal(text);
            if (Math.abs((long) number.scale()) > MOST_DIGITS || number.precision() > MOST_DIGITS) {
                throw new NumberFormatException("more digits than any column holds");
            }
            if (key.equals("multipleOf") && number.signum() <= 0) {
                keys.unfit(key, "must be above zero", "Write it as 'multipleOf: 0.25'.");
                return null;
            }
            return number;
        } catch (NumberFormatException e) {
            keys.unfit(key, "must be a number", "Write it as '" + key + ": 12' or '" + key + ": 0.5'.");
            return null;
        }
    }

    private @Nullable TextPattern pattern(MappingReader keys) {
        String text = keys.text("pattern");
        if (text == null) {
            return null;
        }
        try {
            return TextPattern.of(text);
        } catch (TextPattern.Unfit e) {
            keys.unfit(
                    "pattern",
                    e.clause(),
                    "Write it in JSON Schema's dialect, without looking ahead, behind or back; put it in single quotes if it holds ':' or '#'.");
            return null;
        }
    }
}
