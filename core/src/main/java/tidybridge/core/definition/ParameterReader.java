package tidybridge.core.definition;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads the {@code parameters} of an operation. */
final class ParameterReader {

    static final List<String> KEYS = List.of(
            "in",
            "type",
            "name",
            "required",
            "about",
            "default",
            "example",
            "minimum",
            "maximum",
            "minLength",
            "maxLength",
            "pattern",
            "enum");
    private static final int LONGEST_TEXT = 1_000_000;

    private final Findings findings;

    ParameterReader(Findings findings) {
        this.findings = findings;
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
                keys.required("in", "Add 'in: query', 'in: path' or 'in: header'.");
            }
            if (keys.node("type") == null) {
                keys.required("type", "Add 'type: string', or another type.");
            }
            In in = keys.oneOf("in", In.class, In.QUERY);
            ParameterType type = keys.oneOf("type", ParameterType.class, ParameterType.STRING);
            String wireName = keys.text("name");
            return new ParameterDefinition(
                    entry.key(),
                    wireName == null ? entry.key() : wireName,
                    entry.place(),
                    in == null ? In.QUERY : in,
                    type == null ? ParameterType.STRING : type,
                    in == In.PATH || keys.flag("required"),
                    keys.text("about"),
                    keys.text("default"),
                    keys.text("example"),
                    constraints(keys));
        });
    }

    private Constraints constraints(MappingReader keys) {
        return new Constraints(
                number(keys, "minimum"),
                number(keys, "maximum"),
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
            return new BigDecimal(text);
        } catch (NumberFormatException e) {
            keys.unfit(key, "must be a number", "Write it as '" + key + ": 12' or '" + key + ": 0.5'.");
            return null;
        }
    }

    private @Nullable Pattern pattern(MappingReader keys) {
        String text = keys.text("pattern");
        if (text == null) {
            return null;
        }
        try {
            return Pattern.compile(text);
        } catch (PatternSyntaxException e) {
            keys.unfit(
                    "pattern", "is no regular expression", "Mend it; put it in single quotes if it holds ':' or '#'.");
            return null;
        }
    }
}
