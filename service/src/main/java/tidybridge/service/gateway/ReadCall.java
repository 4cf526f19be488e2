package tidybridge.service.gateway;

import java.io.IOException;
import java.io.OutputStream;
import java.time.ZonedDateTime;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.ConnectionShare;
import tidybridge.engine.SourceFailure;
import tidybridge.service.run.EntityTags;
import tidybridge.service.run.ReadAnswer;
import tidybridge.service.run.ReadRun;
import tidybridge.service.run.Refusal;
import tidybridge.service.run.RunnableOperation;
import tidybridge.service.traffic.CallRecord;

/** Answers one call of a query in the terms of HTTP. Used once. */
final class ReadCall implements ReadAnswer {

    private final RunnableOperation operation;
    private final ReadPlan plan;
    private final Exchange exchange;
    private final AnswerBuffer buffer;
    private @Nullable String next;
    private @Nullable String tag;
    private @Nullable ZonedDateTime modified;

    ReadCall(RunnableOperation operation, ReadPlan plan, Exchange exchange, boolean head) {
        this.operation = operation;
        this.plan = plan;
        this.exchange = exchange;
        this.buffer = new AnswerBuffer(exchange, head);
    }

    /** True once bytes have left, so that the answer can only be finished or cut off. */
    boolean isStreaming() {
        return buffer.isStreaming();
    }

    void run(Inputs inputs, CallRecord record) throws BadInput, SourceFailure, Refusal, IOException {
        EndOfLife.announce(plan.header().deprecated(), exchange);
        checkComparable(inputs);
        ReadRun run = new ReadRun(operation, plan, this);
        boolean found = found(run, inputs);
        record.rows(run.rows());
        if (!found) {
            throw new Refusal(ProblemKind.ROW_UNKNOWN, "Nothing is kept here under this identification.");
        }
        if (next != null && !buffer.isStreaming()) {
            exchange.header("Link", "<" + next + ">; rel=\"next\"");
        }
        if (plan instanceof OneRowPlan one) {
            tagWhole(one.reply().tag());
        }
        if (plan instanceof NothingPlan) {
            exchange.status(HttpStatuses.NO_CONTENT);
        }
        if (!isMeant(inputs)) {
            throw new Refusal(ProblemKind.STATE_CHANGED, "It is not in the state you ask for any more; read it again.");
        }
        if (isKnown(inputs)) {
            exchange.status(HttpStatuses.NOT_MODIFIED);
            return;
        }
        buffer.finish();
    }

    private boolean found(ReadRun run, Inputs inputs) throws BadInput, SourceFailure, Refusal, IOException {
        try {
            return run.run(inputs);
        } catch (AnswerBuffer.NoTurn e) {
            throw ReadRun.longAnswersBusy(operation);
        }
    }

    /** What has no tag is in no state that could be named; a long answer is not begun in vain. */
    private void checkComparable(Inputs inputs) throws Refusal {
        String match = inputs.header("If-Match");
        if (match != null && !tellsTag() && !new TagList(match, false).all()) {
            throw new Refusal(
                    ProblemKind.STATE_CHANGED,
                    "This call cannot tell one state from another, so it cannot be made conditional; leave If-Match out.");
        }
    }

    private boolean tellsTag() {
        return plan instanceof OneRowPlan one && one.reply().tag() != null;
    }

    /** Whether it is in the state that the caller wants to read (RFC 9110, 13.1.1 and 13.1.4). */
    private boolean isMeant(Inputs inputs) {
        String match = inputs.header("If-Match");
        if (match != null) {
            return buffer.isStreaming() || new TagList(match, false).name(true, tag);
        }
        ZonedDateTime since = modified == null ? null : HttpTimes.read(inputs.header("If-Unmodified-Since"));
        return since == null || modified == null || !modified.isAfter(since);
    }

    private void tagWhole(RowReply.@Nullable TagPlan tagged) {
        if (tagged != null && tagged.column() < 0 && !buffer.isStreaming()) {
            tag = EntityTags.of(tagged, buffer.held(), buffer.size());
        }
    }

    /** Tells the tag and the time, and whether the caller has this state already (RFC 9110, 13.1.2 and 13.1.3). */
    private boolean isKnown(Inputs inputs) {
        if (tag == null && modified == null) {
            return false;
        }
        if (tag != null) {
            exchange.header("ETag", tag);
        }
        if (modified != null) {
            exchange.header("Last-Modified", HttpTimes.write(modified));
        }
        String known = inputs.header("If-None-Match");
        if (known != null) {
            return new TagList(known, true).name(true, tag);
        }
        ZonedDateTime since = HttpTimes.read(inputs.header("If-Modified-Since"));
        return since != null && modified != null && !modified.isAfter(since);
    }

    @Override
    public void mediaType(String mediaType) {
        exchange.contentType(mediaType);
    }

    @Override
    public void file(String mediaType, @Nullable String name, boolean inline) {
        FileFields.write(exchange, mediaType, name, inline);
    }

    @Override
    public void field(String name, String value) {
        exchange.header(name, HeaderValues.safe(value));
    }

    @Override
    public void tag(String tag) {
        this.tag = tag;
    }

    @Override
    public void modified(ZonedDateTime time) {
        modified = time;
    }

    @Override
    public void takesWhenLong(ConnectionShare.Turn turn) {
        buffer.takesWhenLong(turn);
    }

    @Override
    public void expectLong() {
        buffer.expectLong();
    }

    @Override
    public String continued(String after) {
        String address = NextAddress.of(exchange.path(), exchange.query(), after);
        next = address;
        return address;
    }

    @Override
    public OutputStream body() {
        return buffer;
    }
}
