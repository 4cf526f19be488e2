package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads how an operation's answer is shaped: {@code answer}, {@code names}, {@code show}, {@code fields}, {@code file} and {@code promise}. */
final class AnswerReader {

    static final List<String> FIELD_KEYS =
            List.of("name", "hide", "mask", "unless", "as", "about", "example", "deprecated");
    static final List<String> FILE_KEYS = List.of("content", "type", "name", "inline");

    private final MappingReader keys;
    private final Findings findings;

    AnswerReader(MappingReader keys, Findings findings) {
        this.keys = keys;
        this.findings = findings;
    }

    /** The definition, or null when the text does not say what is answered. */
    @Nullable
    AnswerDefinition read(NameStyle moduleNames, OfferRule moduleOffers) {
        if (keys.node("answer") == null) {
            keys.required("answer", "Add 'answer: rows', 'answer: row' or another kind.");
        }
        AnswerKind kind = keys.oneOf("answer", AnswerKind.class, null);
        NameStyle names = keys.oneOf("names", NameStyle.class, moduleNames);
        List<FieldRule> rules = rules();
        List<AnswerDefinition.Shown> shown = keys.texts("show").stream()
                .map(scalar -> new AnswerDefinition.Shown(scalar.text(), scalar.place()))
                .toList();
        if (kind == null) {
            return null;
        }
        boolean shaped = switch (kind) {
            case ROWS, ROW -> true;
            case VALUE, NOTHING, FILE -> false;
        };
        if (!shaped && !shown.isEmpty()) {
            keys.unfit("show", "is for rows", "Remove it, or write 'answer: row'.");
        }
        return new AnswerDefinition(
                kind,
                keys.placeOf("answer"),
                names == null ? NameStyle.AS_WRITTEN : names,
                rules,
                shown,
                kind == AnswerKind.FILE ? file() : noFile(),
                shaped ? OfferRule.read(keys, moduleOffers) : OfferRule.refused(keys),
                new PromiseReader(findings).read(keys));
    }

    private List<FieldRule> rules() {
        List<FieldRule> rules = new ArrayList<>();
        Node node = keys.node("fields");
        if (node != null) {
            MappingReader.openAny(node, "fields", findings).ifPresent(fields -> {
                for (Node.Entry entry : fields.entries()) {
                    MappingReader.open(entry.value(), "a field", findings, FIELD_KEYS)
                            .map(rule -> rule(entry, rule))
                            .ifPresent(rules::add);
                }
            });
        }
        return rules;
    }

    private FieldRule rule(Node.Entry entry, MappingReader rule) {
        Mask mask = mask(rule);
        if (mask == null && rule.node("unless") != null) {
            rule.unfit("unless", "needs a mask", "Add 'mask: whole', or remove it.");
        }
        FieldRule.As as = rule.oneOf("as", FieldRule.As.class, null);
        String name = rule.text("name");
        if (name != null && !name.matches("[\\p{L}_][\\p{L}\\p{N}_$-]*(\\.[\\p{L}_][\\p{L}\\p{N}_$-]*)*")) {
            rule.unfit(
                    "name", "is no field name", "Use letters, digits and underscores, with dots for nested objects.");
        }
        return new FieldRule(
                entry.key(),
                entry.place(),
                name,
                rule.flag("hide"),
                mask,
                rule.text("unless"),
                as,
                rule.text("about"),
                rule.text("example"),
                new DeprecationReader(rule, findings).read(DeprecationReader.Of.NAME));
    }

    private static @Nullable Mask mask(MappingReader rule) {
        String text = rule.text("mask");
        if (text == null) {
            return null;
        }
        Mask mask = Mask.parse(text).orElse(null);
        if (mask == null) {
            rule.unfit(
                    "mask",
                    "cannot be '" + text + "'",
                    "Use whole, last-1 to last-" + Mask.MOST_CHARACTERS + ", email or hash.");
        }
        return mask;
    }

    private AnswerDefinition.@Nullable FileRule file() {
        Node node = keys.node("file");
        if (node == null) {
            keys.required("file", "Add 'file: { content: COLUMN, type: image/png, name: COLUMN }'.");
            return null;
        }
        return MappingReader.open(node, "a file", findings, FILE_KEYS)
                .map(file -> {
                    String content = file.required("content", "Add 'content: COLUMN', where the bytes are.");
                    String type = file.text("type");
                    String checked = type == null ? "application/octet-stream" : type;
                    if (checked.indexOf('/') >= 0
                            && !checked.matches("[a-z]+/[A-Za-z0-9.+-]+(; ?charset=[A-Za-z0-9-]+)?")) {
                        file.unfit("type", "is no media type", "Write it as 'image/png', or name a column.");
                    }
                    return content == null
                            ? null
                            : new AnswerDefinition.FileRule(
                                    file.place(), content, checked, file.text("name"), file.flag("inline"));
                })
                .orElse(null);
    }

    private AnswerDefinition.@Nullable FileRule noFile() {
        if (keys.node("file") != null) {
            keys.unfit("file", "is for files only", "Remove it, or write 'answer: file'.");
        }
        return null;
    }
}
