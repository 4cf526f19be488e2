package tidybridge.service.gateway;

import java.io.ByteArrayOutputStream;
import tidybridge.core.bind.Bound;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.Start;
import tidybridge.core.plan.StatementPlan;
import tidybridge.engine.Query;
import tidybridge.engine.SourceFailure;
import tidybridge.service.live.Running;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** Tells how many rows a change would touch, by its own conditions and without changing anything. */
record Preview(Running running, ChangePlan change, StatementPlan counting) {

    private static final JsonFactory JSON = new JsonFactory();

    /** {@code {"matching": 312, "most": 500, "allowed": true}}; without {@code most} where there is no limit. */
    Reply count(Bound bound) throws SourceFailure {
        Query query = new Query(
                counting.variant(bound.values(), Start.BEGINNING),
                bound.values(),
                null,
                0,
                0,
                running.plan().timeout());
        long[] matching = new long[1];
        running.source().read(query, rows -> matching[0] = rows.next() ? rows.integer(0) : 0);
        int most = change.main().limit().most();
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), bytes)) {
            json.writeStartObject();
            json.writeNumberProperty("matching", matching[0]);
            if (most < Integer.MAX_VALUE) {
                json.writeNumberProperty("most", most);
            }
            json.writeBooleanProperty("allowed", matching[0] <= most);
            json.writeEndObject();
        }
        Reply reply = new Reply(HttpStatuses.OK);
        reply.body("application/json", bytes.toByteArray());
        return reply;
    }
}
