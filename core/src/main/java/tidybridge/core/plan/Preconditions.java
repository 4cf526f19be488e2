package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;

/** Gives the changes of a route the read whose entity tag they compare: what is read and what is changed is the same thing. */
final class Preconditions {

    private final RouteDefinition route;
    private final Findings findings;

    Preconditions(RouteDefinition route, Findings findings) {
        this.route = route;
        this.findings = findings;
    }

    List<OperationPlan> link(List<OperationPlan> operations) {
        OperationPlan read = operations.stream()
                .filter(Preconditions::tellsStates)
                .findFirst()
                .orElse(null);
        route.operations().forEach(operation -> check(operation, read, operations));
        return read == null
                ? operations
                : operations.stream()
                        .map(operation -> operation.method().isSafe() ? operation : operation.guardedBy(read))
                        .toList();
    }

    /** A read of one row with a tag or a time, for which nothing but the path must be known. */
    private static boolean tellsStates(OperationPlan operation) {
        boolean states = operation.reply().tag() != null || operation.reply().modified() >= 0;
        return operation.method().isSafe()
                && operation.change() == null
                && operation.answer() == AnswerKind.ROW
                && states
                && operation.parameters().stream().noneMatch(Preconditions::mustBeSent);
    }

    private static boolean mustBeSent(ParameterDefinition parameter) {
        return parameter.in() != In.PATH && parameter.required();
    }

    private void check(OperationDefinition operation, @Nullable OperationPlan read, List<OperationPlan> compiled) {
        Need need = operation.change().precondition();
        boolean ready = compiled.size() == route.operations().size();
        if (need != null && ready && read == null) {
            findings.add(
                    Code.CHANGE_UNFIT,
                    operation.place(),
                    "The route has no get whose answer carries an entity tag, so no state can be compared.",
                    "Write 'tag: { column: version }' or 'tag: representation' under a get that answers with a row.");
        }
    }
}
