package tidybridge.service.gateway;

import java.io.IOException;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.plan.ValuePlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.SourceFailure;
import tidybridge.service.run.ChangeWatch;
import tidybridge.service.run.Notice;
import tidybridge.service.run.Refusal;
import tidybridge.service.run.RunnableOperation;
import tidybridge.service.traffic.CallRecord;

/**
 * One call of one operation in the terms of HTTP, without a server: the gateway answers its callers with it, and a trial whoever tries.
 * Used once.
 */
public final class OperationCall {

    private final RunnableOperation operation;
    private final Exchange exchange;
    private final boolean head;
    private @Nullable ReadCall read;
    private @Nullable ChangeCall change;

    /**
     * Prepares to answer.
     *
     * @param head true when the body is not wanted
     */
    public OperationCall(RunnableOperation operation, Exchange exchange, boolean head) {
        this.operation = operation;
        this.exchange = exchange;
        this.head = head;
    }

    /** True once bytes have left, so that the answer can only be finished or cut off. */
    boolean isStreaming() {
        return read != null && read.isStreaming();
    }

    /** Runs the operation for a caller and sends the answer. */
    void run(Inputs inputs, Repeats repeats, CallRecord record) throws BadInput, SourceFailure, Refusal, IOException {
        String type = offered(operation.plan());
        if (type != null && !AcceptField.takes(inputs.header("Accept"), type)) {
            throw new Refusal(ProblemKind.FORMAT_UNKNOWN, "This call answers in " + type + "; accept that, or '*/*'.");
        }
        exchange.header("Cache-Control", "no-cache");
        // what is masked for one caller may be shown to another
        exchange.header("Vary", "Authorization, Cookie");
        switch (operation.plan()) {
            case ReadPlan plan -> read(plan, inputs, record);
            case ChangePlan plan -> changing(plan).run(inputs, repeats);
        }
    }

    private ChangeCall changing(ChangePlan plan) {
        ChangeCall call = new ChangeCall(operation, plan, exchange);
        change = call;
        return call;
    }

    /** What running it showed that its owner must hear of. */
    public Set<Notice> notices() {
        return change == null ? Set.of() : change.notices();
    }

    private void read(ReadPlan plan, Inputs inputs, CallRecord record)
            throws BadInput, SourceFailure, Refusal, IOException {
        ReadCall call = new ReadCall(operation, plan, exchange, inputs, head);
        read = call;
        call.run(record);
    }

    /**
     * Runs the operation so that nothing of it stays: a change is undone.
     *
     * @param watch looks at the transaction of a change
     */
    public void tryOut(Inputs inputs, ChangeWatch watch) throws BadInput, SourceFailure, Refusal, IOException {
        switch (operation.plan()) {
            case ReadPlan plan -> read(plan, inputs, new CallRecord());
            case ChangePlan plan -> changing(plan).rehearse(inputs, watch);
        }
    }

    /** The media type of an operation's answers; null when each has its own, or none, and where rows know it. */
    private static @Nullable String offered(OperationPlan plan) {
        return switch (plan) {
            case FilePlan file -> withoutParameters(file.columns().mediaType());
            case NothingPlan nothing -> null;
            case CollectionPlan rows -> null;
            case RowPlan row -> null;
            case ChangePlan change -> change.answer() == AnswerKind.NOTHING ? null : "application/json";
            case ValuePlan value -> "application/json";
        };
    }

    /** {@code text/plain; charset=utf-8} is what a caller of text/plain asks for. */
    private static @Nullable String withoutParameters(@Nullable String mediaType) {
        return mediaType == null ? null : mediaType.split(";", 2)[0].strip();
    }
}
