package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.UncheckedIOException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Bound;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.Start;
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
                plan.statement().variant(bound.values(), Start.BEGINNING),
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
        running.source().read(query, rows -> writePage(rows, order, limit));
        return true;
    }

    private void writePage(Rows rows, PageOrder order, int limit) {
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), buffer)) {
            json.writeStartObject();
            json.writeArrayPropertyStart("data");
            String first = "";
            String[] last = null;
            int count = 0;
            while (count < limit && rows.next()) {
                running.writer().write(rows, json);
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
                next = NextAddress.of(request.getRequestURI(), request.getQueryString(), after);
                json.writeStringProperty("next", next);
            }
            json.writeEndObject();
            json.writeEndObject();
        }
    }
}
