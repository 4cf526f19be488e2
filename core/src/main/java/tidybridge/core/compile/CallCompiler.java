package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Routine;
import tidybridge.core.catalog.Routine.Mode;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.TransactionOwner;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.StepPlan.CallPlan;
import tidybridge.core.plan.StepPlan.Out;
import tidybridge.core.sql.Bind;
import tidybridge.core.sql.Outline.BindUse;
import tidybridge.core.sql.Renderer;
import tidybridge.core.sql.RoutineText;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;

/** Compares a CALL with the procedure the catalog knows: what goes in, and what comes back. */
final class CallCompiler {

    private final OperationDefinition operation;
    private final ScannedStep scanned;
    private final Contents contents;
    private final Map<String, Integer> values;
    private final Function<String, Optional<String>> bodies;
    private final Findings findings;

    /**
     * Prepares for one call.
     *
     * @param values indexes of values by name, to which the call's outputs are added
     * @param bodies of procedures, by their names; empty for those that nobody may see or wants to look at
     */
    CallCompiler(
            OperationDefinition operation,
            ScannedStep scanned,
            Contents contents,
            Map<String, Integer> values,
            Function<String, Optional<String>> bodies,
            Findings findings) {
        this.bodies = bodies;
        this.operation = operation;
        this.scanned = scanned;
        this.contents = contents;
        this.values = values;
        this.findings = findings;
    }

    /** What comes back; null, with a finding, when the call does not fit its procedure. */
    @Nullable
    CallPlan compile() {
        String name = scanned.statement().called().orElse("");
        Optional<Routine> known = contents.routine(name).filter(routine -> routine.kind() == Routine.Kind.PROCEDURE);
        Place place = scanned.statement().source().at(0);
        if (known.isEmpty()) {
            List<String> names = contents.routines().stream()
                    .filter(routine -> routine.kind() == Routine.Kind.PROCEDURE)
                    .map(Routine::name)
                    .toList();
            findings.add(
                    Code.ROUTINE_UNFIT,
                    place,
                    "The source has no procedure '" + name + "' that its user may call." + Nearest.hint(name, names),
                    "Mend the name, or grant execute on it.");
            return null;
        }
        Routine routine = known.get();
        int arguments = scanned.statement().arguments();
        if (arguments != routine.parameters().size()) {
            findings.add(
                    Code.ROUTINE_UNFIT,
                    place,
                    "The procedure " + routine.name() + " takes "
                            + routine.parameters().size() + " arguments, and the call has " + arguments + ".",
                    "Write it as: call " + routine.name()
                            + routine.parameters().stream()
                                    .map(parameter -> ":" + parameter.name())
                                    .collect(Collectors.joining(", ", "(", ")"))
                            + ".");
            return null;
        }
        checkText(routine, place);
        return outs(routine);
    }

    private void checkText(Routine routine, Place place) {
        RoutineText text = bodies.apply(routine.name())
                .flatMap(body -> RoutineText.read(body, scanned.statement().dialect()))
                .orElse(null);
        if (text == null) {
            return;
        }
        if (text.endsTransaction() && operation.change().transaction() == TransactionOwner.SERVICE) {
            findings.add(
                    Code.ROUTINE_ENDS_TRANSACTION,
                    place,
                    "The procedure " + routine.name()
                            + " ends the transaction around it, so what it did stays even where the call fails later.",
                    "Remove its COMMIT, or what commits by itself such as CREATE; or write 'transaction: routine' where it is meant.");
        }
        if (text.returnsRows() && scanned.step().results().isEmpty()) {
            findings.add(
                    Code.RESULT_UNNAMED,
                    place,
                    "The procedure " + routine.name()
                            + " returns rows that the text does not name, and callers do not get them.",
                    "Name them under 'results:', in the order the procedure returns them.");
        }
    }

    private @Nullable CallPlan outs(Routine routine) {
        Map<Integer, String> binds = new HashMap<>();
        for (BindUse use : scanned.statement().outline().uses()) {
            if (use instanceof BindUse.Argument argument && argument.routine().equalsIgnoreCase(routine.name())) {
                binds.put(argument.position(), argument.bind());
            }
        }
        List<Out> outs = new ArrayList<>();
        boolean fits = true;
        for (int i = 0; i < routine.parameters().size(); i++) {
            Routine.Parameter parameter = routine.parameters().get(i);
            String bind = binds.get(i);
            if (parameter.mode() == Mode.IN) {
                fits &= bind == null || isGiven(bind);
            } else if (bind == null) {
                fits = false;
                findings.add(
                        Code.ROUTINE_UNFIT,
                        scanned.statement().source().at(0),
                        "The procedure hands '" + parameter.name()
                                + "' back, and the call has no bind parameter there.",
                        "Write ':" + parameter.name() + "' in its place.");
            } else {
                fits &= parameter.mode() == Mode.OUT || isGiven(bind);
                outs.add(out(bind, parameter));
            }
        }
        outs.sort(Comparator.comparingInt(Out::position));
        return fits ? new CallPlan(outs, scanned.step().results()) : null;
    }

    private Out out(String bind, Routine.Parameter parameter) {
        values.putIfAbsent(scanned.resolved(bind), values.size());
        int position =
                new Renderer(scanned.statement()).render(name -> true).binds().indexOf(bind) + 1;
        return new Out(bind, position, parameter.type().fieldType(), parameter.mode() == Mode.INOUT);
    }

    /** True for what a request or an earlier step gives; anything else is a mistyped name. */
    private boolean isGiven(String bind) {
        String name = scanned.resolved(bind);
        boolean given = name.indexOf('.') >= 0
                || operation.parameters().stream()
                        .anyMatch(parameter -> parameter.name().equals(name));
        if (!given) {
            Place place = scanned.statement().binds().stream()
                    .filter(found -> found.name().equals(bind))
                    .map(Bind::place)
                    .findFirst()
                    .orElse(scanned.statement().source().at(0));
            List<String> names = ChangeCompiler.names(operation.parameters());
            findings.add(
                    Code.BIND_UNDEFINED,
                    place,
                    "':" + bind + "' has no parameter." + Nearest.hint(bind, names),
                    "Add '" + bind + ": { in: body, type: string }' under 'parameters:', or mend the name.");
        }
        return given;
    }
}
