package tidybridge.service.gateway;

import java.io.IOException;
import java.io.OutputStream;
import java.time.Duration;
import java.time.ZonedDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.PageEnd;
import tidybridge.core.answer.RowSink;
import tidybridge.core.bind.Asked;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.plan.CollectionPlan;
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
import tidybridge.service.run.Rendition;
import tidybridge.service.run.RunnableOperation;
import tidybridge.service.traffic.CallRecord;

/** Answers one call of a query in the terms of HTTP. Used once. */
final class ReadCall implements ReadAnswer {

    private static final String LINK = "Link";

    /** What is said of a page whose notation has no place for it. */
    private static final String PAGE_END = "Page-End";

    private final RunnableOperation operation;
    private final ReadPlan plan;
    private final Exchange exchange;
    private final AnswerBuffer buffer;
    private final Inputs inputs;
    private @Nullable PageEnd end;
    private boolean saysBeside;
    private @Nullable String tag;
    private @Nullable ZonedDateTime modified;

    ReadCall(RunnableOperation operation, ReadPlan plan, Exchange exchange, Inputs inputs, boolean head) {
        this.inputs = inputs;
        this.operation = operation;
        this.plan = plan;
        this.exchange = exchange;
        this.buffer = new AnswerBuffer(exchange, head);
    }

    /** True once bytes have left, so that the answer can only be finished or cut off. */
    boolean isStreaming() {
        return buffer.isStreaming();
    }

    void run(CallRecord record) throws BadInput, SourceFailure, Refusal, IOException {
        EndOfLife.announce(plan.header().deprecated(), exchange);
        checkComparable();
        ReadRun run = new ReadRun(operation, plan, this);
        boolean found = found(run);
        record.rows(run.rows());
        if (!found) {
            throw new Refusal(ProblemKind.ROW_UNKNOWN, "Nothing is kept here under this identification.");
        }
        PageEnd told = buffer.isStreaming() ? null : end;
        if (told != null && told.isLinked()) {
            exchange.header(LINK, RowFormats.links(told));
        }
        if (told != null && saysBeside) {
            exchange.header(PAGE_END, RowFormats.said(told));
        }
        if (plan instanceof OneRowPlan one && !saysBeside) {
            tagWhole(one.reply().tag());
        }
        if (plan instanceof NothingPlan) {
            exchange.status(HttpStatuses.NO_CONTENT);
        }
        if (!isMeant()) {
            throw new Refusal(ProblemKind.STATE_CHANGED, "It is not in the state you ask for any more; read it again.");
        }
        if (isKnown()) {
            exchange.status(HttpStatuses.NOT_MODIFIED);
            return;
        }
        buffer.finish();
    }

    private boolean found(ReadRun run) throws BadInput, SourceFailure, Refusal, IOException {
        try {
            return run.run(inputs);
        } catch (AnswerBuffer.NoTurn e) {
            throw ReadRun.longAnswersBusy(operation);
        }
    }

    /** What has no tag is in no state that could be named; a long answer is not begun in vain. */
    private void checkComparable() throws Refusal {
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
    private boolean isMeant() {
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
    private boolean isKnown() {
        // a row's tag names its JSON
        String told = saysBeside ? null : tag;
        if (told == null && modified == null) {
            return false;
        }
        if (told != null) {
            exchange.header("ETag", told);
        }
        if (modified != null) {
            exchange.header("Last-Modified", HttpTimes.write(modified));
        }
        String known = inputs.header("If-None-Match");
        if (known != null) {
            return new TagList(known, true).name(true, told);
        }
        ZonedDateTime since = HttpTimes.read(inputs.header("If-Modified-Since"));
        return since != null && modified != null && !modified.isAfter(since);
    }

    @Override
    public Rendition rendition(List<RowFormat> offered, Asked asked) throws Refusal {
        if (!offered.isEmpty()) {
            exchange.header("Vary", "Accept");
        }
        return RowFormats.chosen(inputs.header("Accept"), offered, asked);
    }

    @Override
    public void rows(Rendition rendition) {
        RowFormats.tell(rendition, plan.path(), exchange);
        if (rendition.format() != RowFormat.JSON) {
            saysBeside = true;
            buffer.whenStreaming(() -> exchange.trailers(List.of(PAGE_END, LINK), this::trailers));
        }
    }

    @Override
    public void ended(PageEnd end) {
        this.end = end;
    }

    /** What stands beside the rows in notations that have no place for it. */
    private Map<String, String> trailers() {
        Map<String, String> trailers = new LinkedHashMap<>();
        if (end != null) {
            trailers.put(PAGE_END, RowFormats.said(end));
        }
        if (end != null && end.isLinked()) {
            trailers.put(LINK, RowFormats.links(end));
        }
        return trailers;
    }

    @Override
    public void rowKey(List<String> names) {
        if (!names.isEmpty()) {
            exchange.header("Row-Key", RowFormats.key(names));
        }
    }

    @Override
    public void cutOff(RowSink sink, RuntimeException cause) {
        if (buffer.isStreaming()) {
            try {
                sink.cutOff();
                exchange.out().flush();
            } catch (RuntimeException | IOException e) {
                cause.addSuppressed(e);
            }
        }
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
    public void expectLong(Duration longest) {
        exchange.longest(longest);
        buffer.expectLong();
    }

    @Override
    public String address(String parameter, @Nullable String position) {
        boolean jumps =
                plan instanceof CollectionPlan collection && collection.page().jumps();
        return PageAddress.of(exchange.path(), exchange.query(), jumps, parameter, position);
    }

    @Override
    public OutputStream body() {
        return buffer;
    }
}
