package tidybridge.service.gateway;

import java.io.IOException;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Transaction;
import tidybridge.engine.TransactionSettings;
import tidybridge.service.run.ChangeRun;
import tidybridge.service.run.ChangeWatch;
import tidybridge.service.run.HeldAnswer;
import tidybridge.service.run.Notice;
import tidybridge.service.run.Refusal;
import tidybridge.service.run.RunnableOperation;

/** Answers one call of a change in the terms of HTTP: what is kept leaves once it is kept, and a repeated request is answered as the first. Used once. */
final class ChangeCall {

    private final RunnableOperation operation;
    private final ChangePlan plan;
    private final Exchange exchange;
    private Set<Notice> notices = Set.of();

    ChangeCall(RunnableOperation operation, ChangePlan plan, Exchange exchange) {
        this.operation = operation;
        this.plan = plan;
        this.exchange = exchange;
    }

    void run(Inputs inputs, Repeats repeats) throws BadInput, SourceFailure, Refusal, IOException {
        // a request that cannot be bound claims no key
        ChangeRun run = begun(inputs, TransactionSettings.Ending.COMMIT);
        if (plan.sequence().readOnly() || run.isPreview()) {
            answer(run, inputs, ChangeWatch.NOBODY).send(exchange);
            return;
        }
        Repeats.Begun begun = repeats.begin(plan, operation.source(), inputs, exchange.path());
        HttpAnswer replay = begun.replay();
        (replay == null ? kept(run, inputs, begun.attempt()) : replay).send(exchange);
    }

    private ChangeRun begun(Inputs inputs, TransactionSettings.Ending ending) throws BadInput {
        ChangeRun begun = new ChangeRun(operation, plan, ending);
        begun.bind(inputs);
        notices = begun.notices();
        return begun;
    }

    /** What running it showed that its owner must hear of. */
    Set<Notice> notices() {
        return notices;
    }

    /** Runs the change for real, watched by somebody, and undoes it. */
    void rehearse(Inputs inputs, ChangeWatch watch) throws BadInput, SourceFailure, Refusal, IOException {
        answer(begun(inputs, TransactionSettings.Ending.ROLL_BACK), inputs, watch)
                .send(exchange);
    }

    private HttpAnswer answer(ChangeRun run, Inputs inputs, ChangeWatch watch) throws BadInput, SourceFailure, Refusal {
        return whole(run.run(inputs, ConditionalFields.read(inputs), watch));
    }

    private HttpAnswer whole(HeldAnswer held) {
        return HttpAnswer.of(held, plan.header().module());
    }

    private HttpAnswer kept(ChangeRun run, Inputs inputs, Repeats.@Nullable Attempt attempt)
            throws BadInput, SourceFailure, Refusal {
        if (attempt == null) {
            return answer(run, inputs, ChangeWatch.NOBODY);
        }
        try {
            HttpAnswer answer = answer(run, inputs, new ChangeWatch() {
                @Override
                public void after(Transaction transaction, HeldAnswer held) throws SourceFailure, Refusal {
                    attempt.within(transaction, whole(held));
                }
            });
            attempt.done(answer);
            return answer;
        } catch (Refusal e) {
            attempt.refused(e.problem());
            throw e;
        } catch (SourceFailure e) {
            attempt.refused(plan.conditions().problem(e.condition()));
            throw e;
        } catch (BadInput e) {
            attempt.refused(e.problem());
            throw e;
        } catch (RuntimeException e) {
            attempt.refused(Problem.of(ProblemKind.FAILED, ProblemKind.FAILED.meaning()));
            throw e;
        }
    }
}
