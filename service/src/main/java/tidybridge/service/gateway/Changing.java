package tidybridge.service.gateway;

import java.io.IOException;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.BatchRule;
import tidybridge.core.definition.Isolation;
import tidybridge.core.definition.Method;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.problem.InputError;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Steps;
import tidybridge.engine.Transaction;
import tidybridge.engine.TransactionSettings;
import tidybridge.service.live.Running;

/** Runs one operation that changes data, for one request. The answer leaves when what it tells has come true. Used once. */
public final class Changing {

    /** For the steps of a rehearsal and all that is compared around them. */
    private static final Duration REHEARSED = Duration.ofSeconds(60);

    private final Running running;
    private final OperationPlan plan;
    private final ChangePlan change;
    private final TransactionSettings.Ending ending;

    /** Something that looks at the transaction around the steps. */
    public interface Watch {
        default void before(Transaction transaction) throws SourceFailure {}

        /**
         * Looks at what was done, before it is kept.
         *
         * @throws Refusal to have everything rolled back
         */
        default void after(Transaction transaction, Reply reply) throws SourceFailure, Refusal {}
    }

    private static final Watch NOBODY = new Watch() {};

    /**
     * Prepares to run an operation.
     *
     * @param ending whether the changes are kept
     */
    public Changing(Running running, ChangePlan change, TransactionSettings.Ending ending) {
        this.running = running;
        this.plan = running.plan();
        this.change = change;
        this.ending = ending;
    }

    /**
     * Binds the inputs, runs the steps, and sends the answer once the changes are kept; a repeated request is answered as the first.
     */
    void run(Inputs inputs, Exchange exchange, Repeats repeats) throws BadInput, SourceFailure, Refusal, IOException {
        Answering.announceEnd(plan, exchange);
        if (change.readOnly() || isPreview(inputs)) {
            reply(inputs, NOBODY).send(exchange);
            return;
        }
        Repeats.Begun begun = repeats.begin(plan, change, running.source(), inputs, exchange.path());
        Reply replay = begun.replay();
        (replay == null ? kept(inputs, begun.attempt()) : replay).send(exchange);
    }

    private boolean isPreview(Inputs inputs) throws BadInput {
        return change.preview() != null && plan.binder().bind(inputs).preview();
    }

    private Reply kept(Inputs inputs, Repeats.@Nullable Attempt attempt) throws BadInput, SourceFailure, Refusal {
        if (attempt == null) {
            return reply(inputs, NOBODY);
        }
        try {
            Reply reply = reply(inputs, new Watch() {
                @Override
                public void after(Transaction transaction, Reply reply) throws SourceFailure, Refusal {
                    attempt.within(transaction, reply);
                }
            });
            attempt.done(reply);
            return reply;
        } catch (Refusal e) {
            attempt.refused(e.problem());
            throw e;
        } catch (SourceFailure e) {
            attempt.refused(plan.conditions().problem(e.condition()));
            throw e;
        } catch (BadInput e) {
            attempt.refused(Problem.badInput(e.errors()));
            throw e;
        } catch (RuntimeException e) {
            attempt.refused(Problem.of(ProblemKind.FAILED, ProblemKind.FAILED.meaning()));
            throw e;
        }
    }

    /** Binds the inputs and runs the steps, watched by somebody. */
    public Reply reply(Inputs inputs, Watch watch) throws BadInput, SourceFailure, Refusal {
        StatementPlan preview = change.preview();
        if (preview != null) {
            Bound asked = plan.binder().bind(inputs);
            if (asked.preview()) {
                return new Preview(running, change, preview).count(asked);
            }
        }
        RowWriter writer = running.writer();
        RowWriter shown = writer.isMasked() ? writer.unmasked(inputs.caller().privileges()) : writer;
        Precondition precondition = new Precondition(running, change, inputs);
        Work work = work(inputs, shown);
        Held held = new Held();
        TransactionSettings settings = switch (ending) {
            case COMMIT -> new TransactionSettings(change.isolation(), change.readOnly(), plan.timeout(), ending);
            // what others commit meanwhile must not look like a change of the rehearsal's own
            case ROLL_BACK -> new TransactionSettings(Isolation.REPEATABLE_READ, change.readOnly(), REHEARSED, ending);
        };
        try {
            running.source().transact(settings, transaction -> {
                precondition.check(transaction);
                watch.before(transaction);
                held.reply = work.run(transaction);
                precondition.tell(transaction, held.reply);
                watch.after(transaction, held.reply);
            });
        } catch (ChangeAnswer.TooManyRows e) {
            throw new IllegalStateException(plan.label() + ": " + e.getMessage(), e);
        }
        return held.reply;
    }

    /** What a transaction hands out. */
    private static final class Held {
        private Reply reply = new Reply(HttpStatuses.NO_CONTENT);
    }

    /** The steps, for one request's values or for a batch's. */
    private interface Work {
        Reply run(Transaction transaction) throws SourceFailure, Refusal;
    }

    private Work work(Inputs inputs, RowWriter writer) throws BadInput {
        BatchRule batch = change.batch();
        if (batch != null) {
            List<@Nullable Object[]> rows = plan.binder().bindEach(inputs, batch.most());
            return transaction -> batch(transaction, batch, rows);
        }
        if (plan.method() == Method.PATCH && plan.binder().bodyKind() != BodyKind.NONE && inputs.body() == null) {
            throw new BadInput(
                    List.of(new InputError("", "body", "The body is missing; it says what is to be changed.")));
        }
        Bound bound = plan.binder().bind(inputs);
        return transaction -> steps(transaction, bound, writer);
    }

    private Reply steps(Transaction transaction, Bound bound, RowWriter writer) throws SourceFailure, Refusal {
        ChangeAnswer answer = new ChangeAnswer(running, writer);
        try {
            new Steps(transaction, plan, change, answer).run(bound.values());
        } catch (Steps.Refused e) {
            throw new Refusal(e.problem());
        }
        Problem refusal = answer.refusal();
        if (refusal != null) {
            throw new Refusal(refusal);
        }
        return answer.reply();
    }

    private Reply batch(Transaction transaction, BatchRule batch, List<@Nullable Object[]> rows)
            throws SourceFailure, Refusal {
        Reply reply = new Reply(
                batch.outcome() == BatchRule.Outcome.SEPARATE
                        ? HttpStatuses.OK
                        : plan.reply().status());
        try {
            byte[] body = new Batches(plan, change.main(), transaction, rows).run(batch.outcome());
            if (plan.answer() != AnswerKind.NOTHING || batch.outcome() == BatchRule.Outcome.SEPARATE) {
                reply.body("application/json", body);
            }
        } catch (Steps.Refused e) {
            throw new Refusal(e.problem());
        }
        return reply;
    }
}
