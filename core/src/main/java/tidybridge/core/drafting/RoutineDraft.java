package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.catalog.Routine;
import tidybridge.core.text.Written;

/** The operation that calls a procedure or a function. */
final class RoutineDraft {

    private final Routine routine;
    private final int results;
    private final Drafting drafting;
    private final List<Argument> arguments;

    /** One argument with the name that a text has for it. */
    private record Argument(String name, Routine.Parameter parameter) {

        Column column() {
            return new Column(parameter.name(), parameter.type(), true, null, false, false, "");
        }

        boolean isGiven() {
            return parameter.mode() != Routine.Mode.OUT;
        }
    }

    /** @param results how many result sets it returns, as far as that is known */
    RoutineDraft(Routine routine, int results, Drafting drafting) {
        this.routine = routine;
        this.results = results;
        this.drafting = drafting;
        this.arguments = arguments(routine);
    }

    private static List<Argument> arguments(Routine routine) {
        Set<String> taken = new HashSet<>();
        List<Argument> arguments = new ArrayList<>();
        for (Routine.Parameter parameter : routine.parameters()) {
            arguments.add(new Argument(ColumnNames.free(parameter.name(), taken), parameter));
        }
        return arguments;
    }

    /** What only reads is called under {@code get}; the declaration says so, and the database keeps to it. */
    private boolean reads() {
        return switch (routine.access()) {
            case READS_DATA, NO_SQL -> true;
            case CONTAINS_SQL -> routine.kind() == Routine.Kind.FUNCTION;
            case MODIFIES_DATA -> false;
        };
    }

    void write() {
        Optional<Argument> strange = arguments.stream()
                .filter(argument -> argument.parameter().type().fieldType() == FieldType.GEOMETRY)
                .findFirst();
        if (strange.isPresent()) {
            note("Its argument " + strange.get().parameter().name() + " is no value that a parameter can hold.");
            return;
        }
        if (!reads() && drafting.catalog().isReadOnly()) {
            note("It changes data, and its source is read-only.");
            return;
        }
        String sql = sql();
        Optional<String> refusal = drafting.refusal(sql);
        if (refusal.isPresent()) {
            note("Calling it is refused by the database: " + refusal.get() + ".");
            return;
        }
        String segment = ColumnNames.segment(routine.name());
        Written.Collector operation = new Written.Collector()
                .put(
                        "about",
                        routine.about().isBlank() ? "Calls " + routine.name() : ColumnNames.oneLine(routine.about()))
                .put("sql", drafting.keep(segment + "-call", sql));
        if (results > 0) {
            operation.put("results", results());
        }
        operation.put("answer", routine.kind() == Routine.Kind.FUNCTION ? "value" : "row");
        Written.Collector parameters = new Written.Collector();
        arguments.stream()
                .filter(Argument::isGiven)
                .forEach(argument -> parameters.put(argument.name(), parameter(argument)));
        if (!parameters.isEmpty()) {
            operation.put("parameters", parameters.keys());
        }
        Written.Keys whole = reads()
                ? operation.keys()
                : drafting.changing().putAll(operation.keys()).keys();
        if (!drafting.add("/" + segment, reads() ? "get" : "post", whole)) {
            note("/" + segment + " is there already.");
        }
    }

    /** Each is a list until somebody says that it is one row, and has a number until somebody gives it a name. */
    private Written results() {
        Written.Collector named = new Written.Collector();
        for (int i = 1; i <= results; i++) {
            named.put("result_" + i, "rows");
        }
        return named.keys();
    }

    private void note(String words) {
        drafting.note(routine.name(), words);
    }

    private String sql() {
        String called = drafting.catalog().dialect().named(routine.name())
                + arguments.stream().map(argument -> ":" + argument.name()).collect(Collectors.joining(", ", "(", ")"));
        return switch (routine.kind()) {
            case FUNCTION -> "select " + called + " as value\n";
            case PROCEDURE -> "call " + called + "\n";
        };
    }

    private Written parameter(Argument argument) {
        Written.Collector parameter = new Written.Collector()
                .put("in", reads() ? "query" : "body")
                .putAll(ColumnLimits.of(argument.column(), List.of()))
                .flag("required");
        Written example = ColumnLimits.example(argument.column(), List.of());
        return (example == null ? parameter : parameter.put("example", example)).keys();
    }
}
