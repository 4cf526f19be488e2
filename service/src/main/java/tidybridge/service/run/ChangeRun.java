package tidybridge.service.run;

import java.time.Duration;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.RowShape;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.BatchRule;
import tidybridge.core.definition.Isolation;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.TransactionOwner;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.problem.InputError;
import tidybridge.core.problem.Problem;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Steps;
import tidybridge.engine.Transaction;
import tidybridge.engine.TransactionSettings;

/** Runs one operation that changes data, or is several statements, for one request. Used once. */
public final class ChangeRun {

    /** For the steps of a rehearsal and all that is compared around them. */
    private static final Duration REHEARSED = Duration.ofSeconds(60);

    private static final int OK = 200;

    private final RunnableOperation operation;
    private final ChangePlan plan;
    private final TransactionSettings.Ending ending;
    private final Set<Notice> notices = EnumSet.noneOf(Notice.class);
    private @Nullable Bound bound;
    private @Nullable List<@Nullable Object[]> rows;

    /**
     * Prepares to run an operation.
     *
     * @param ending whether the changes are kept
     */
    public ChangeRun(RunnableOperation operation, ChangePlan plan, TransactionSettings.Ending ending) {
        this.operation = operation;
        this.plan = plan;
        this.ending = ending;
    }

    /** Binds the inputs; to be done once, before anything else. */
    public void bind(Inputs inputs) throws BadInput {
        BatchRule batch = plan.batch();
        if (batch != null) {
            rows = plan.binder().bindEach(inputs, batch.most());
            return;
        }
        if (plan.method() == Method.PATCH && plan.binder().bodyKind() != BodyKind.NONE && inputs.body() == null) {
            throw new BadInput(
                    List.of(new InputError("", "body", "The body is missing; it says what is to be changed.")));
        }
        bound = plan.binder().bind(inputs);
    }

    /** True when the request only asks how many rows would be changed. */
    public boolean isPreview() {
        return plan.preview() != null && bound != null && bound.asked().preview();
    }

    /** Runs the steps in one transaction, and hands over the answer once what it tells has come true. */
    public HeldAnswer run(Inputs inputs, StateCondition condition, ChangeWatch watch)
            throws BadInput, SourceFailure, Refusal {
        StatementPlan preview = plan.preview();
        if (preview != null && bound != null && bound.asked().preview()) {
            return new PreviewCount(operation.source(), plan, preview).count(bound);
        }
        StateCheck state = new StateCheck(operation, plan, condition, inputs);
        Work work = work(operation.writer(inputs, RowShape.WHOLE));
        HeldAnswer[] answer = new HeldAnswer[1];
        try {
            operation.source().transact(settings(), transaction -> {
                state.check(transaction);
                watch.before(transaction);
                answer[0] = work.run(transaction);
                if (transaction.isEnded()) {
                    notices.add(Notice.TRANSACTION_ENDED);
                }
                state.tell(transaction, answer[0]);
                watch.after(transaction, answer[0]);
            });
        } catch (SourceFailure e) {
            if (e.kind() == ConditionKind.TRANSACTION_ENDED && ending() == TransactionSettings.Ending.COMMIT) {
                notices.add(Notice.TRANSACTION_ENDED);
            }
            throw e;
        } catch (ChangeAnswer.TooManyRows e) {
            throw new IllegalStateException(plan.label() + ": " + e.getMessage(), e);
        }
        return answer[0];
    }

    /** What running it showed that its owner must hear of. */
    public Set<Notice> notices() {
        return notices;
    }

    private TransactionSettings.Ending ending() {
        boolean own = plan.sequence().transaction() == TransactionOwner.ROUTINE;
        return own && ending == TransactionSettings.Ending.COMMIT ? TransactionSettings.Ending.ITS_OWN : ending;
    }

    private TransactionSettings settings() {
        boolean readOnly = plan.sequence().readOnly();
        TransactionSettings.Ending how = ending();
        return switch (how) {
            case COMMIT, ITS_OWN -> new TransactionSettings(plan.sequence().isolation(), readOnly, plan.timeout(), how);
            // what others commit meanwhile must not look like a change of the rehearsal's own
            case ROLL_BACK -> new TransactionSettings(Isolation.REPEATABLE_READ, readOnly, REHEARSED, how);
        };
    }

    /** The steps, for one request's values or for a batch's. */
    private interface Work {
        HeldAnswer run(Transaction transaction) throws SourceFailure, Refusal;
    }

    private Work work(RowWriter writer) {
        BatchRule batch = plan.batch();
        List<@Nullable Object[]> each = rows;
        if (batch != null && each != null) {
            return transaction -> batch(transaction, batch, each);
        }
        Bound one = Objects.requireNonNull(bound, "the inputs are bound first");
        return transaction -> steps(transaction, one, writer);
    }

    private HeldAnswer steps(Transaction transaction, Bound bound, RowWriter writer) throws SourceFailure, Refusal {
        ChangeAnswer answer = new ChangeAnswer(plan, writer, operation::writerOf);
        try {
            new Steps(transaction, plan, answer).run(bound.values());
        } catch (Steps.Refused e) {
            throw new Refusal(e.problem());
        } finally {
            if (answer.hasUnnamed()) {
                notices.add(Notice.RESULT_UNNAMED);
            }
        }
        Problem refusal = answer.refusal();
        if (refusal != null) {
            throw new Refusal(refusal);
        }
        return answer.answer();
    }

    private HeldAnswer batch(Transaction transaction, BatchRule batch, List<@Nullable Object[]> rows)
            throws SourceFailure, Refusal {
        boolean separate = batch.outcome() == BatchRule.Outcome.SEPARATE;
        HeldAnswer answer = new HeldAnswer(separate ? OK : plan.reply().status());
        try {
            byte[] body = new BatchRun(plan, transaction, rows).run(batch.outcome());
            if (plan.answer() != AnswerKind.NOTHING || separate) {
                answer.body("application/json", body);
            }
        } catch (Steps.Refused e) {
            throw new Refusal(e.problem());
        }
        return answer;
    }
}
