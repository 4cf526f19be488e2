package tidybridge.service.gateway;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.ReplyPlan;
import tidybridge.core.plan.Start;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Query;
import tidybridge.engine.Rows;
import tidybridge.engine.SourceFailure;
import tidybridge.service.live.Running;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** Runs one operation for one request and writes its answer. Used once. */
public final class Answering {

    private static final JsonFactory JSON = new JsonFactory();

    /** Longer pages are read from the database as they are written; one row's answers never collect more than they need. */
    private static final int LONG_PAGE_ROWS = 500;

    /** Beyond this many rows nobody waits for the whole: the first byte leaves early, without a Link field. */
    private static final int EXPORT_ROWS = 5_000;

    private static final int READ_AHEAD_ROWS = 500;
    private static final int ONE_ROW_AHEAD = 2;

    private final Exchange exchange;
    private final Running running;
    private final OperationPlan plan;
    private final AnswerBuffer buffer;
    private RowWriter writer;
    private @Nullable String next;
    private boolean found;
    private @Nullable String tag;
    private @Nullable ZonedDateTime modified;

    public Answering(Exchange exchange, Running running, boolean head) {
        this.exchange = exchange;
        this.running = running;
        this.plan = running.plan();
        this.writer = running.writer();
        this.buffer = new AnswerBuffer(exchange, head);
    }

    /** True once bytes have left, so that the answer can only be finished or cut off. */
    boolean isStreaming() {
        return buffer.isStreaming();
    }

    /** Binds the inputs, runs the statement and writes what it returns. */
    public void run(Inputs inputs) throws BadInput, SourceFailure, Refusal, IOException {
        Bound bound = plan.binder().bind(inputs);
        if (writer.isMasked()) {
            writer = writer.unmasked(inputs.caller().privileges());
        }
        announceEnd(plan, exchange);
        try {
            answer(bound);
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        if (!found) {
            throw new Refusal(ProblemKind.ROW_UNKNOWN, "Nothing is kept here under this identification.");
        }
        if (next != null && !buffer.isStreaming()) {
            exchange.header("Link", "<" + next + ">; rel=\"next\"");
        }
        ReplyPlan.TagPlan tagged = plan.reply().tag();
        if (tagged != null && tagged.column() < 0 && !buffer.isStreaming()) {
            tag = buffer.tag(tagged);
        }
        if (isKnown(inputs)) {
            exchange.status(HttpStatuses.NOT_MODIFIED);
            return;
        }
        buffer.finish();
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
            exchange.header("Last-Modified", HttpTimes.field(modified));
        }
        String known = inputs.header("If-None-Match");
        if (known != null) {
            return EntityTags.names(known, tag, true);
        }
        ZonedDateTime since = HttpTimes.ofField(inputs.header("If-Modified-Since"));
        return since != null && modified != null && !modified.isAfter(since);
    }

    /** RFC 8594: the moment from which the operation may be gone. */
    static void announceEnd(OperationPlan plan, Exchange exchange) {
        Deprecation deprecated = plan.deprecated();
        if (deprecated != null && deprecated.ends() != null) {
            exchange.header(
                    "Sunset",
                    deprecated.ends().atStartOfDay(ZoneOffset.UTC).format(DateTimeFormatter.RFC_1123_DATE_TIME));
        }
    }

    private void answer(Bound bound) throws SourceFailure, BadInput {
        switch (plan.answer()) {
            case ROWS -> {
                PageOrder order = plan.order();
                if (order == null) {
                    throw new IllegalStateException("a collection has an order");
                }
                exchange.contentType("application/json");
                page(bound, order);
            }
            case ROW, VALUE -> {
                exchange.contentType("application/json");
                one(bound, this::writeOne);
            }
            case NOTHING -> {
                one(bound, rows -> {});
                exchange.status(HttpStatuses.NO_CONTENT);
            }
            case FILE -> one(bound, this::writeFile);
        }
    }

    /** Writes the current row. */
    private interface OneRow {
        void write(Rows rows);
    }

    private void one(Bound bound, OneRow writing) throws SourceFailure {
        Query query = new Query(
                plan.statement().variant(bound.values(), Start.BEGINNING),
                bound.values(),
                null,
                1,
                ONE_ROW_AHEAD,
                plan.timeout());
        running.source().read(query, rows -> {
            found = rows.next();
            if (found) {
                if (plan.reply().readsRow()) {
                    say(rows);
                }
                writing.write(rows);
            }
        });
    }

    /** What the row says beside the body. */
    private void say(Rows rows) {
        ReplyPlan reply = plan.reply();
        for (ReplyPlan.Header header : reply.headers()) {
            String value = rows.text(header.column());
            if (value != null) {
                exchange.header(header.name(), Reply.withoutBreaks(value));
            }
        }
        ReplyPlan.TagPlan tagged = reply.tag();
        if (tagged != null && tagged.column() >= 0) {
            tag = EntityTags.of(tagged, rows.text(tagged.column()));
        }
        if (reply.modified() >= 0) {
            modified = HttpTimes.ofDatabase(rows.text(reply.modified()));
        }
    }

    private void writeOne(Rows rows) {
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), buffer)) {
            switch (plan.answer()) {
                case VALUE -> {
                    json.writeStartObject();
                    json.writeName("value");
                    writer.writeValue(rows, json);
                    json.writeEndObject();
                }
                default -> writer.write(rows, json);
            }
        }
    }

    private void writeFile(Rows rows) {
        FilePlan file = plan.file();
        byte[] content = file == null ? null : rows.bytes(file.content());
        if (file == null || content == null) {
            found = false;
            return;
        }
        FileAnswer.head(rows, file, exchange);
        try {
            buffer.write(content, 0, content.length);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void page(Bound bound, PageOrder order) throws SourceFailure, BadInput {
        Position position = Position.read(running, order, bound.after());
        int limit = bound.limit();
        if (limit > EXPORT_ROWS) {
            buffer.expectLong();
        }
        Query query = new Query(
                plan.statement().variant(bound.values(), position.start()),
                bound.values(),
                position.values(),
                limit + 1,
                limit > LONG_PAGE_ROWS ? READ_AHEAD_ROWS : 0,
                plan.timeout());
        found = true;
        running.source().read(query, rows -> writePage(rows, order, limit));
    }

    private void writePage(Rows rows, PageOrder order, int limit) {
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), buffer)) {
            json.writeStartObject();
            json.writeArrayPropertyStart("data");
            String first = "";
            String[] last = null;
            int count = 0;
            while (count < limit && rows.next()) {
                writer.write(rows, json);
                if (count++ == 0) {
                    first = Position.value(rows, order.keys().getFirst());
                }
                if (count == limit) {
                    last = Position.values(rows, order);
                }
            }
            json.writeEndArray();
            json.writeObjectPropertyStart("page");
            json.writeNumberProperty("limit", limit);
            if (last != null && rows.next()) {
                String after = Position.write(running, first, last);
                next = NextAddress.of(exchange.path(), exchange.query(), after);
                json.writeStringProperty("next", next);
            }
            json.writeEndObject();
            json.writeEndObject();
        }
    }
}
