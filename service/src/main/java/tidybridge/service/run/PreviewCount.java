package tidybridge.service.run;

import java.io.ByteArrayOutputStream;
import tidybridge.core.bind.Bound;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.sql.TimeLimit;
import tidybridge.engine.Query;
import tidybridge.engine.Source;
import tidybridge.engine.SourceFailure;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/**
 * Tells how many rows a change would touch, by its own conditions and without changing anything.
 *
 * @param counting the query that counts them
 */
record PreviewCount(Source source, ChangePlan plan, StatementPlan counting) {

    private static final JsonFactory JSON = new JsonFactory();
    private static final int OK = 200;

    /** {@code {"matching": 312, "most": 500, "allowed": true}}; without {@code most} where there is no limit. */
    HeldAnswer count(Bound bound) throws SourceFailure {
        Query query =
                new Query(counting.variant(bound.values()), bound.values(), null, 0, 0, TimeLimit.of(plan.timeout()));
        long[] matching = new long[1];
        source.read(query, rows -> matching[0] = rows.next() ? rows.integer(0) : 0);
        int most = plan.main().limit().most();
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
        HeldAnswer answer = new HeldAnswer(OK);
        answer.body("application/json", bytes.toByteArray());
        return answer;
    }
}
