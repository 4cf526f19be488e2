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
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.Freshness;
import tidybridge.core.plan.NothingPlan;
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
import tidybridge.service.run.SharedReads;
import tidybridge.service.traffic.CallRecord;

/** Answers one call of a query in the terms of HTTP. Used once. */
final class ReadCall implements ReadAnswer {

    private static final String LINK = "Link";

    /** What is said of a page whose notation has no place for it. */
    private static final String PAGE_END = "Page-End";

    private static final List<String> TRAILERS = List.of(PAGE_END, LINK);

    private final RunnableOperation operation;
    private final ReadPlan plan;
    private final Exchange exchange;
    private final AnswerBuffer buffer;
    private final Inputs inputs;

    /** What is told of an answer that others may have; null for others. */
    private final @Nullable HeadRecord record;

    private SharedReads<SharedAnswer>.@Nullable Part part;
    private long rows;
    private @Nullable PageEnd end;
    private boolean saysBeside;
    private @Nullable String tag;
    private @Nullable ZonedDateTime modified;

    ReadCall(RunnableOperation operation, ReadPlan plan, Exchange exchange, Inputs inputs, boolean head) {
        this.inputs = inputs;
        this.operation = operation;
        this.plan = plan;
        this.record = plan.reply().fresh() == null ? null : new HeadRecord(exchange);
        this.exchange = record == null ? exchange : record;
        this.buffer = new AnswerBuffer(this.exchange, head);
        buffer.whenStreaming(this::begun);
    }

    /** True once bytes have left, so that the answer can only be finished or cut off. */
    boolean isStreaming() {
        return buffer.isStreaming();
    }

    void run(CallRecord traffic) throws BadInput, SourceFailure, Refusal, IOException {
        checkComparable();
        ReadRun run = new ReadRun(operation, plan, this);
        boolean found = found(run);
        traffic.rows(rows);
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
        tagWhole(plan.reply().tag());
        tellFreshness(plan.reply().fresh());
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
        Bound bound = run.bind(inputs);
        HeadRecord told = record;
        if (told == null) {
            return alone(run, bound);
        }
        String query = exchange.query();
        String address = query == null ? exchange.path() : exchange.path() + "?" + query;
        try (SharedReads<SharedAnswer>.Part own = reads().join(run.key(address, inputs, bound))) {
            SharedAnswer other = own.of(plan.timeout());
            if (other != null) {
                take(other);
                return other.found();
            }
            part = own;
            boolean found = alone(run, bound);
            if (!buffer.isStreaming()) {
                own.share(new SharedAnswer(
                        found, rows, told.told(), buffer.held(), buffer.size(), end, saysBeside, tag, modified));
            }
            return found;
        }
    }

    @SuppressWarnings("unchecked")
    private SharedReads<SharedAnswer> reads() {
        return (SharedReads<SharedAnswer>) operation.reads();
    }

    private boolean alone(ReadRun run, Bound bound) throws BadInput, SourceFailure, Refusal, IOException {
        try {
            return run.run(bound, inputs);
        } catch (AnswerBuffer.NoTurn e) {
            throw ReadRun.longAnswersBusy(operation);
        } finally {
            rows = run.rows();
        }
    }

    /** Answers as an equal call does that ran meanwhile. */
    private void take(SharedAnswer other) {
        other.head().forEach(field -> field.accept(exchange));
        buffer.take(other.body(), other.size());
        rows = other.rows();
        end = other.end();
        saysBeside = other.saysBeside();
        tag = other.tag();
        modified = other.modified();
    }

    /** What leaves while it is read can be nobody else's. */
    private void begun() {
        if (part != null) {
            part.close();
        }
        if (saysBeside) {
            exchange.trailers(TRAILERS, this::trailers);
        }
        tellFreshness(plan.reply().fresh());
    }

    private void tellFreshness(@Nullable Freshness fresh) {
        if (fresh != null) {
            exchange.header(
                    "Cache-Control",
                    (fresh.shared() ? "max-age=" : "private, max-age=")
                            + fresh.time().toSeconds());
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
        return plan.reply().tag() != null;
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
        // the tag of a row's version names its JSON
        RowReply.TagPlan tagged = plan.reply().tag();
        String told = saysBeside && tagged != null && tagged.column() >= 0 ? null : tag;
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
    public void all(int most, List<String> key) {
        exchange.header("Row-Limit", String.valueOf(most));
        if (!key.isEmpty()) {
            exchange.header("Row-Key", RowFormats.key(key));
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
