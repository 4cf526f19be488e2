package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.Bound;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.problem.InputError;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Query;
import tidybridge.engine.Rows;
import tidybridge.engine.SourceFailure;
import tidybridge.service.live.Running;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** Runs one operation for one request and writes its rows. Used once. */
final class Answering {

    private static final JsonFactory JSON = new JsonFactory();

    /** Longer pages are read from the database as they are written; one row's answers never collect more than they need. */
    private static final int LONG_PAGE_ROWS = 500;

    /** Beyond this many rows nobody waits for the whole: the first byte leaves early, without a Link field. */
    private static final int EXPORT_ROWS = 5_000;

    private static final int READ_AHEAD_ROWS = 500;
    private static final int ONE_ROW_AHEAD = 2;

    private final HttpServletRequest request;
    private final HttpServletResponse response;
    private final Running running;
    private final OperationPlan plan;
    private final AnswerBuffer buffer;
    private @Nullable String next;

    Answering(HttpServletRequest request, HttpServletResponse response, Running running, boolean head) {
        this.request = request;
        this.response = response;
        this.running = running;
        this.plan = running.plan();
        this.buffer = new AnswerBuffer(response, head);
    }

    /** True once bytes have left, so that the answer can only be finished or cut off. */
    boolean isStreaming() {
        return buffer.isStreaming();
    }

    void run(CallInputs inputs) throws BadInput, SourceFailure, Refusal, IOException {
        Bound bound = plan.binder().bind(inputs);
        response.setContentType("application/json");
        PageOrder order = plan.order();
        boolean found;
        try {
            found = order == null ? one(bound) : page(bound, order);
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        if (!found) {
            throw new Refusal(ProblemKind.ROW_UNKNOWN, "Nothing is kept here under this identification.");
        }
        if (next != null && !buffer.isStreaming()) {
            response.setHeader("Link", "<" + next + ">; rel=\"next\"");
        }
        buffer.finish();
    }

    private boolean one(Bound bound) throws SourceFailure {
        boolean[] found = new boolean[1];
        Query query = new Query(
                plan.statement().variant(bound.values(), false),
                bound.values(),
                null,
                1,
                ONE_ROW_AHEAD,
                plan.timeout());
        running.source().read(query, rows -> found[0] = rows.next() && writeOne(rows));
        return found[0];
    }

    private boolean writeOne(Rows rows) {
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), buffer)) {
            switch (plan.answer()) {
                case ROW, ROWS -> running.writer().write(rows, json);
                case VALUE -> {
                    json.writeStartObject();
                    json.writeName("value");
                    running.writer().writeValue(rows, 0, json);
                    json.writeEndObject();
                }
            }
        }
        return true;
    }

    private boolean page(Bound bound, PageOrder order) throws SourceFailure, BadInput {
        Object[] position = position(bound, order);
        int limit = bound.limit();
        if (limit > EXPORT_ROWS) {
            buffer.expectLong();
        }
        Query query = new Query(
                plan.statement().variant(bound.values(), position != null),
                bound.values(),
                position,
                limit + 1,
                limit > LONG_PAGE_ROWS ? READ_AHEAD_ROWS : 0,
                plan.timeout());
        running.source().read(query, rows -> writePage(rows, order, limit));
        return true;
    }

    private void writePage(Rows rows, PageOrder order, int limit) {
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), buffer)) {
            json.writeStartObject();
            json.writeArrayPropertyStart("data");
            String[] last = null;
            int count = 0;
            while (count < limit && rows.next()) {
                running.writer().write(rows, json);
                count++;
                if (count == limit) {
                    last = values(rows, order);
                }
            }
            json.writeEndArray();
            json.writeObjectPropertyStart("page");
            json.writeNumberProperty("limit", limit);
            if (last != null && rows.next()) {
                next = NextAddress.of(
                        request.getRequestURI(),
                        request.getQueryString(),
                        running.continuation().write(plan.scope(), last));
                json.writeStringProperty("next", next);
            }
            json.writeEndObject();
            json.writeEndObject();
        }
    }

    /** The order values of the current row as text; none is null, because the plan was refused otherwise. */
    private static String[] values(Rows rows, PageOrder order) {
        List<PageOrder.Key> keys = order.keys();
        String[] values = new String[keys.size()];
        for (int i = 0; i < values.length; i++) {
            PageOrder.Key key = keys.get(i);
            String text = switch (key.type()) {
                case INTEGER, BOOLEAN -> String.valueOf(rows.integer(key.field()));
                case DECIMAL, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, FLOAT, JSON, BINARY ->
                    rows.text(key.field());
            };
            values[i] = text == null ? "" : text;
        }
        return values;
    }

    private Object @Nullable [] position(Bound bound, PageOrder order) throws BadInput {
        String after = bound.after();
        if (after == null) {
            return null;
        }
        List<PageOrder.Key> keys = order.keys();
        String[] texts = running.continuation().read(plan.scope(), after, keys.size());
        if (texts == null) {
            throw new BadInput(
                    List.of(
                            new InputError(
                                    Binder.AFTER,
                                    "query",
                                    "'after' is no position in this collection; take it from page.next as it is, or leave it out to begin again.")));
        }
        Object[] position = new Object[texts.length];
        for (int i = 0; i < texts.length; i++) {
            position[i] = typed(keys.get(i), texts[i]);
        }
        return position;
    }

    /** An order value as its column's own type; a text would be converted anew for every row it is compared with. */
    private static Object typed(PageOrder.Key key, String text) {
        return switch (key.type()) {
            case INTEGER, BOOLEAN -> Long.valueOf(text);
            case DECIMAL -> new BigDecimal(text);
            case DATE -> LocalDate.parse(text);
            case LOCAL_DATE_TIME, MOMENT -> LocalDateTime.parse(text.replace(' ', 'T'));
            case STRING, TIME, FLOAT, JSON, BINARY -> text;
        };
    }
}
