package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.sql.Statement;

/** Compiles one operation: first what the text alone tells, then what the source says about its statements. */
final class OperationCompiler {

    /** A page beyond this many rows is an export, which is fine when somebody wants one. */
    private static final int LARGE_PAGE = 10_000;

    private final OperationScope scope;
    private final OperationDefinition operation;
    private final Findings findings;
    private final @Nullable RowPlan guard;

    /**
     * Prepares to compile an operation.
     *
     * @param guard the read of its route that tells states apart; null for none
     */
    OperationCompiler(OperationScope scope, @Nullable RowPlan guard) {
        this.scope = scope;
        this.operation = scope.operation();
        this.findings = scope.findings();
        this.guard = guard;
    }

    /** The plan, or null when an error was found or nobody could be asked. */
    @Nullable
    OperationPlan compile() {
        int before = findings.errors();
        checkDescription();
        List<ScannedStep> steps = steps();
        new ParameterCheck(scope).check();
        checkPage();
        if (!steps.isEmpty()) {
            new BindCheck(scope.path(), operation, steps, findings).check();
            new ChangeCheck(operation, scope.needs().open(), steps, findings).check();
        }
        if (steps.isEmpty() || findings.errors() > before) {
            return null;
        }
        OperationPlan plan = ChangeCompiler.isNeeded(operation, steps)
                ? new ChangeCompiler(scope, steps, guard).compile()
                : new ReadCompiler(scope, steps.getFirst().statement()).compile();
        if (plan != null) {
            new PromiseCheck(operation, plan, findings).check();
        }
        return plan;
    }

    /** Each step with its statement; none, with a finding, when one of them cannot be read. */
    private List<ScannedStep> steps() {
        List<ScannedStep> steps = new ArrayList<>();
        for (StepDefinition step : operation.steps()) {
            Statement statement =
                    new StatementCheck(operation, step, scope.catalog().dialect(), findings).scan();
            if (statement != null) {
                steps.add(new ScannedStep(step, statement));
            }
        }
        return steps.size() == operation.steps().size() ? steps : List.of();
    }

    private void checkDescription() {
        if (operation.about() == null) {
            findings.add(
                    Code.ABOUT_MISSING,
                    operation.place(),
                    "The operation says nothing about itself.",
                    "Add 'about: ...', a sentence for the reference.");
        }
        DeprecationCheck.checkOperation(operation, scope.path(), scope.module(), findings);
    }

    private void checkPage() {
        if (operation.answer().kind() == AnswerKind.ROWS && operation.order().isEmpty()) {
            findings.add(
                    Code.ORDER_MISSING,
                    operation.place(),
                    "A collection needs an order to be continued by.",
                    "Add 'order: [field, ...]' with fields that together are unique, such as a name and the key.");
        }
        PageRule page = operation.page();
        if (page != null && page.most() > LARGE_PAGE) {
            findings.add(
                    Code.RESULT_UNBOUNDED,
                    operation.place(),
                    "A caller may ask for " + page.most() + " rows at once.",
                    "Lower 'page: { most: ... }', or accept this with the reason.");
        }
    }
}
