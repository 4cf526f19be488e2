package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.StepDefinition.ChangeLimit;
import tidybridge.core.definition.StepDefinition.Expect;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Node;
import tidybridge.core.text.SourceText;

/** Reads what an operation runs: {@code sql}, or several {@code steps}. */
final class StepReader {

    static final List<String> STEP_KEYS = List.of("sql", "with", "changes", "results", "expect", "otherwise");

    private static final String STEP_NAME = "[A-Za-z_][A-Za-z0-9_]{0,63}";
    private static final String REFERENCE = STEP_NAME + "(\\." + STEP_NAME + ")?";
    private static final int MOST_STEPS = 20;
    private static final int MOST_CHANGES = 1_000_000;

    private final ModuleText text;
    private final Findings findings;
    private final Set<String> usedFiles = new HashSet<>();

    StepReader(ModuleText text, Findings findings) {
        this.text = text;
        this.findings = findings;
    }

    /** The files that were named. */
    Set<String> usedFiles() {
        return usedFiles;
    }

    /** The steps in their order; empty, with a finding, when one of them cannot be read. */
    List<StepDefinition> read(MappingReader keys) {
        Node node = keys.node("steps");
        if (node == null) {
            StepDefinition only = step("", keys, "Add 'sql: file.sql', the statement that answers.");
            return only == null ? List.of() : List.of(only);
        }
        for (String key : List.of("sql", "with", "changes", "results")) {
            if (keys.node(key) != null) {
                keys.unfit(key, "belongs to a step when there are several", "Move it into one of the steps.");
            }
        }
        List<StepDefinition> steps = new ArrayList<>();
        boolean complete = true;
        for (Node.Entry entry : MappingReader.openAny(node, "steps", findings)
                .map(MappingReader::entries)
                .orElse(List.of())) {
            StepDefinition step = named(entry);
            complete &= step != null;
            if (step != null) {
                steps.add(step);
            }
        }
        if (steps.size() > MOST_STEPS) {
            keys.unfit("steps", "are more than " + MOST_STEPS, "Put some of them into a procedure.");
        } else if (complete && steps.isEmpty()) {
            keys.unfit("steps", "are none", "Add a step such as 'made: { sql: add.sql }'.");
        }
        return complete ? steps : List.of();
    }

    private @Nullable StepDefinition named(Node.Entry entry) {
        if (!entry.key().matches(STEP_NAME)) {
            findings.add(
                    Code.VALUE_UNFIT,
                    entry.place(),
                    "The step '" + entry.key() + "' has no name that a statement can use.",
                    "Use letters, digits and underscores.");
        }
        return MappingReader.open(entry.value(), "a step", findings, STEP_KEYS)
                .map(keys -> step(entry.key(), keys, "Add 'sql: file.sql', the step's statement."))
                .orElse(null);
    }

    private @Nullable StepDefinition step(String name, MappingReader keys, String remedy) {
        SourceText sql = sql(keys, remedy);
        List<StepDefinition.With> with = with(keys);
        Expect expect = keys.oneOf("expect", Expect.class, Expect.ANYTHING);
        RefusalRule otherwise = new RefusalReader(findings).read(keys, "otherwise", name.isEmpty() ? "refused" : name);
        ChangeLimit changes = changes(keys);
        List<StepDefinition.ResultSet> results = results(keys);
        if (otherwise != null && otherwise.status() == 0) {
            keys.unfit("otherwise", "needs a status", "Write it as 'otherwise: { status: 409, message: ... }'.");
        }
        return sql == null
                ? null
                : new StepDefinition(
                        name,
                        keys.place(),
                        sql,
                        keys.placeOf("sql"),
                        with,
                        expect == null ? Expect.ANYTHING : expect,
                        otherwise,
                        changes,
                        results);
    }

    /** {@code one}, {@code any}, or {@code most: 500}. */
    private @Nullable ChangeLimit changes(MappingReader keys) {
        Node node = keys.node("changes");
        return switch (node) {
            case null -> null;
            case Node.Mapping mapping ->
                MappingReader.open(mapping, "a limit of changes", findings, List.of("most"))
                        .map(limit -> limit.wholeNumber("most", 1, MOST_CHANGES))
                        .map(most -> new ChangeLimit(most, false))
                        .orElse(null);
            default -> {
                String word = keys.text("changes");
                if (!"one".equals(word) && !"any".equals(word)) {
                    keys.unfit("changes", "must be one, any, or a limit", "Write 'one', 'any', or '{ most: 500 }'.");
                }
                yield "any".equals(word) ? ChangeLimit.ANY : ChangeLimit.ONE;
            }
        };
    }

    private List<StepDefinition.With> with(MappingReader keys) {
        List<StepDefinition.With> with = new ArrayList<>();
        Node node = keys.node("with");
        if (node != null) {
            MappingReader.openAny(node, "with", findings).ifPresent(names -> {
                for (Node.Entry entry : names.entries()) {
                    String from = names.text(entry.key());
                    if (from != null && !from.matches(REFERENCE)) {
                        names.unfit(
                                entry.key(), "is no parameter or step", "Write a parameter's name, or 'step.field'.");
                    } else if (from != null) {
                        with.add(new StepDefinition.With(entry.key(), from, entry.place()));
                    }
                }
            });
        }
        return with;
    }

    /** {@code results: { nights: rows, total: row }} */
    private List<StepDefinition.ResultSet> results(MappingReader keys) {
        List<StepDefinition.ResultSet> results = new ArrayList<>();
        Node node = keys.node("results");
        if (node != null) {
            MappingReader.openAny(node, "results", findings).ifPresent(names -> {
                for (Node.Entry entry : names.entries()) {
                    String kind = names.text(entry.key());
                    if (kind != null && !kind.equals("rows") && !kind.equals("row")) {
                        names.unfit(
                                entry.key(), "must be rows or row", "Write 'rows' for a list, 'row' for one object.");
                    }
                    results.add(new StepDefinition.ResultSet(entry.key(), "row".equals(kind), entry.place()));
                }
            });
        }
        return results;
    }

    /** The index of the step that answers: the last one unless the text names another. */
    int answeredBy(MappingReader keys, List<StepDefinition> steps) {
        String name = keys.text("answered-by");
        if (name == null || steps.isEmpty()) {
            return Math.max(0, steps.size() - 1);
        }
        List<String> names = steps.stream().map(StepDefinition::name).toList();
        int index = names.indexOf(name);
        if (index < 0) {
            keys.unfit(
                    "answered-by",
                    "names no step." + Nearest.hint(name, names),
                    "Use one of: " + String.join(", ", names) + ".");
        }
        return Math.max(0, index);
    }

    private @Nullable SourceText sql(MappingReader keys, String remedy) {
        String file = keys.required("sql", remedy);
        if (file == null) {
            return null;
        }
        if (file.startsWith("/")
                || file.contains("\\")
                || List.of(file.split("/")).contains("..")) {
            findings.add(
                    Code.FILE_OUTSIDE,
                    keys.placeOf("sql"),
                    "The file '" + file + "' lies outside the module's folder.",
                    "Keep the module's statements beside its module.yaml.");
            return null;
        }
        if (!text.files().containsKey(file)) {
            findings.add(
                    Code.FILE_MISSING,
                    keys.placeOf("sql"),
                    "There is no file '" + file + "' in the module's folder."
                            + Nearest.hint(file, text.files().keySet()),
                    "Create it, or mend the name; it is relative to module.yaml and ends in .sql.");
            return null;
        }
        usedFiles.add(file);
        return text.source(file);
    }
}
