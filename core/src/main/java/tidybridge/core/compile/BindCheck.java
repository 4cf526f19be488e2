package tidybridge.core.compile;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.Template;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.sql.Bind;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.sql.WhenPart;
import tidybridge.core.sql.Word;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;

/** Compares the bind parameters of an operation's statements with its parameters, and with what earlier steps hand on. */
final class BindCheck {

    private final PathTemplate path;
    private final OperationDefinition operation;
    private final List<ScannedStep> steps;
    private final Findings findings;
    private final Map<String, ParameterDefinition> byName;

    /**
     * Looks at an operation.
     *
     * @param steps at least one; all of their statements could be read
     */
    BindCheck(PathTemplate path, OperationDefinition operation, List<ScannedStep> steps, Findings findings) {
        this.path = path;
        this.operation = operation;
        this.steps = List.copyOf(steps);
        this.findings = findings;
        this.byName = operation.parameters().stream()
                .collect(Collectors.toMap(ParameterDefinition::name, Function.identity()));
    }

    void check() {
        Set<String> earlier = new HashSet<>();
        for (ScannedStep step : steps) {
            checkReferences(step, earlier);
            checkBinds(step);
            checkWhens(step, earlier);
            checkEveryForm(step);
            earlier.add(step.step().name());
        }
        checkUnused();
    }

    private void checkList(Bind bind, ParameterDefinition parameter) {
        if (parameter.list() != null && !bind.inList()) {
            findings.add(
                    Code.LIST_OUTSIDE_IN,
                    bind.place(),
                    "The list ':" + bind.name()
                            + "' does not stand alone in 'in (...)', so it is bound as one JSON text.",
                    "Write 'in (:" + bind.name() + ")', or accept this where JSON is meant, as in json_table().");
        }
    }

    /** {@code :step.field} and what 'with' names must be there before the step runs. */
    private void checkReferences(ScannedStep step, Set<String> earlier) {
        Set<String> names = step.names();
        for (StepDefinition.With with : step.step().with()) {
            if (!names.contains(with.bind())) {
                findings.add(
                        Code.BIND_UNDEFINED,
                        with.place(),
                        "The statement has no ':" + with.bind() + "'." + Nearest.hint(with.bind(), names),
                        "Mend the name, or remove it from 'with'.");
            }
            checkReference(with.from(), with.place(), earlier);
        }
        for (Bind bind : step.statement().binds()) {
            if (bind.name().indexOf('.') >= 0) {
                checkReference(bind.name(), bind.place(), earlier);
            }
        }
    }

    private void checkReference(String name, Place place, Set<String> earlier) {
        int dot = name.indexOf('.');
        if (dot < 0 && !byName.containsKey(name)) {
            undefined(name, place);
        } else if (dot >= 0 && !earlier.contains(name.substring(0, dot))) {
            findings.add(
                    Code.STEP_UNKNOWN,
                    place,
                    "No step '" + name.substring(0, dot) + "' runs before this one."
                            + Nearest.hint(name.substring(0, dot), earlier),
                    "Name an earlier step, as in ':step.field'.");
        }
    }

    private void checkBinds(ScannedStep step) {
        Statement statement = step.statement();
        Set<String> told = new HashSet<>();
        for (Bind bind : statement.binds()) {
            String name = step.resolved(bind.name());
            ParameterDefinition parameter = byName.get(name);
            if (parameter != null) {
                checkList(bind, parameter);
            }
            // a procedure's own outputs have no parameter, and only the catalog tells which they are
            boolean known = name.indexOf('.') >= 0 || !name.equals(bind.name()) || step.isCall();
            if (parameter == null) {
                if (!known && told.add(bind.name())) {
                    undefined(bind.name(), bind.place());
                }
            } else if (parameter.mayBeAbsent()
                    && parameter.in().sent()
                    && !mayBeNull(statement, bind)
                    && statement.applies(bind, given -> !given.equals(bind.name()))
                    && !comparedWithNull(statement, bind)
                    && told.add(bind.name())) {
                findings.add(
                        Code.PARAMETER_OPTIONAL_BOUND,
                        bind.place(),
                        "':" + bind.name() + "' is optional, and here it is bound as NULL when it is absent.",
                        "End the line with '-- when :" + bind.name()
                                + "', or make the parameter required, or give it a default.");
            }
        }
    }

    /** What is written may be null, and a partial update is the one place where absent means something else. */
    private boolean mayBeNull(Statement statement, Bind bind) {
        boolean partial = statement.kind() == StatementKind.UPDATE && operation.method() == Method.PATCH;
        return statement.kind() == StatementKind.CALL || statement.writes(bind) && !partial;
    }

    /** {@code :x is null or ...}: another finding says it better. */
    private static boolean comparedWithNull(Statement statement, Bind bind) {
        return statement.binds().stream()
                .anyMatch(other -> other.name().equals(bind.name()) && statement.isNullTested(other));
    }

    private void undefined(String name, Place place) {
        findings.add(
                Code.BIND_UNDEFINED,
                place,
                "':" + name + "' has no parameter." + Nearest.hint(name, byName.keySet()),
                "Add '" + name + ": { in: " + usualPlace(name)
                        + ", type: string }' under 'parameters:', or mend the name.");
    }

    /** Where callers of this method would send it. */
    private String usualPlace(String name) {
        if (path.placeholders().contains(name)) {
            return "path";
        }
        return operation.method().takesBody() ? "body" : "query";
    }

    private void checkWhens(ScannedStep step, Set<String> earlier) {
        Statement statement = step.statement();
        for (WhenPart when : statement.whens()) {
            for (String written : when.names()) {
                String name = step.resolved(written);
                ParameterDefinition parameter = byName.get(name);
                if (name.indexOf('.') >= 0) {
                    checkReference(name, when.place(), earlier);
                } else if (parameter == null) {
                    findings.add(
                            Code.WHEN_UNKNOWN,
                            when.place(),
                            "There is no parameter '" + name + "' to wait for." + Nearest.hint(name, byName.keySet()),
                            "Mend the name in '-- when :" + name + "', or define the parameter.");
                } else if (!parameter.mayBeAbsent()) {
                    findings.add(
                            Code.WHEN_REQUIRED,
                            when.place(),
                            "'" + name + "' is always given, so this line always applies.",
                            "Remove '-- when :" + name + "', or make the parameter optional and without default.");
                }
            }
        }
        int switches = StatementPlan.switches(
                        statement, operation.parameters(), step.indexes(StatementPlan.indexes(operation.parameters())))
                .size();
        if (switches > StatementPlan.MOST_SWITCHES) {
            findings.add(
                    Code.PARAMETERS_TOO_MANY,
                    operation.place(),
                    switches + " parameters switch parts of the statement, and " + StatementPlan.MOST_SWITCHES
                            + " may.",
                    "Split the operation, or give some of them a default.");
        }
    }

    /** With nothing given that may be absent, a condition must be left; a statement without any is told about elsewhere. */
    private void checkEveryForm(ScannedStep step) {
        Statement statement = step.statement();
        boolean always = statement.changesEveryRow(name -> true);
        if (always || !statement.changesEveryRow(name -> isAlwaysGiven(step.resolved(name)))) {
            return;
        }
        String names = statement.whens().stream()
                .flatMap(when -> when.names().stream())
                .map(step::resolved)
                .filter(name -> !isAlwaysGiven(name))
                .distinct()
                .collect(Collectors.joining(", "));
        findings.add(
                Code.CHANGE_WITHOUT_WHERE,
                statement.topLevel(Word.WHERE).orElse(statement.at(0)),
                "When nothing of " + names + " is given, the statement changes every row of its table.",
                "Make one of them required, add a condition that always applies, or accept this with the reason.");
    }

    private boolean isAlwaysGiven(String name) {
        ParameterDefinition parameter = byName.get(name);
        return parameter != null && !parameter.mayBeAbsent();
    }

    private void checkUnused() {
        Set<String> used = new HashSet<>();
        for (ScannedStep step : steps) {
            step.names().forEach(name -> used.add(step.resolved(name)));
        }
        String location = operation.reply().location();
        Set<String> named = new HashSet<>(used);
        named.addAll(location == null ? List.of() : Template.names(location));
        if (operation.change().precondition() != null) {
            path.placeholders().forEach(named::add);
        }
        for (ParameterDefinition parameter : operation.parameters()) {
            if (!named.contains(parameter.name())) {
                findings.add(
                        Code.PARAMETER_UNUSED,
                        parameter.place(),
                        "The statement has no ':" + parameter.name() + "'." + Nearest.hint(parameter.name(), used),
                        "Use it in " + operation.sql().file() + ", or remove the parameter.");
            }
        }
    }
}
