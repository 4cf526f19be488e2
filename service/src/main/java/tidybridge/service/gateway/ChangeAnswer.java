package tidybridge.service.gateway;

import java.io.ByteArrayOutputStream;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.Row;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.catalog.Field;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.StepDefinition.ResultSet;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.ReplyPlan;
import tidybridge.core.plan.StepPlan.CallPlan;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Rows;
import tidybridge.engine.Steps;
import tidybridge.service.live.Running;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** Writes the answer of a change while its steps run. Used once for each attempt. */
final class ChangeAnswer implements Steps.Answer {

    /** The most rows of one result set of a procedure; nothing that is not a collection may be endless. */
    static final int MOST_RESULT_ROWS = 10_000;

    private static final JsonFactory JSON = new JsonFactory();

    private final Running running;
    private final OperationPlan plan;
    private final RowWriter writer;
    private final Reply reply;
    private final Map<String, byte[]> results = new LinkedHashMap<>();
    private @Nullable Problem refusal;

    /**
     * Begins an answer.
     *
     * @param writer for the caller's privileges
     */
    ChangeAnswer(Running running, RowWriter writer) {
        this.running = running;
        this.plan = running.plan();
        this.writer = writer;
        this.reply = new Reply(plan.reply().status());
    }

    Reply reply() {
        return reply;
    }

    /** What the row itself refuses; null when it does not. */
    @Nullable
    Problem refusal() {
        return refusal;
    }

    @Override
    public void row(Row row, @Nullable Object[] values) {
        ReplyPlan said = plan.reply();
        if (said.statusFrom() >= 0) {
            status(row, said);
        }
        for (ReplyPlan.Header header : said.headers()) {
            String value = row.text(header.column());
            if (value != null) {
                reply.header(header.name(), value);
            }
        }
        if (said.location() != null) {
            reply.header("Location", basePath() + said.location().fill(row, values, ChangeAnswer::segment));
        }
        if (plan.answer() != AnswerKind.NOTHING) {
            reply.body("application/json", body(row));
        }
    }

    /** {@code /api/moorings/v1} */
    private String basePath() {
        return "/api/" + plan.label().substring(0, plan.label().indexOf(' '));
    }

    private static String segment(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }

    private void status(Row row, ReplyPlan said) {
        String text = row.text(said.statusFrom());
        int status = text == null ? said.status() : text.matches("\\d{3}") ? Integer.parseInt(text) : 0;
        boolean success = status >= HttpStatuses.OK && status <= HttpStatuses.NO_CONTENT;
        if (success) {
            reply.status(status);
            return;
        }
        boolean refused = status >= HttpStatuses.FIRST_PROBLEM && status <= HttpStatuses.LAST;
        String message = said.messageFrom() < 0 ? null : row.text(said.messageFrom());
        ProblemKind kind = refused ? ProblemKind.ofRefusal(status) : ProblemKind.FAILED;
        String usual = kind.meaning();
        refusal = new Problem(kind, refused ? status : kind.status(), message == null ? usual : message, List.of());
    }

    private byte[] body(Row row) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(256);
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), bytes)) {
            json.writeStartObject();
            if (plan.answer() == AnswerKind.VALUE) {
                json.writeName("value");
                writer.writeValue(row, json);
            } else {
                writer.writeMembers(row, json);
                writeResults(json);
            }
            json.writeEndObject();
        }
        return bytes.toByteArray();
    }

    /** Every result set the text names is there, whether or not the procedure returned it. */
    private void writeResults(JsonGenerator json) {
        CallPlan call = plan.change() == null ? null : plan.change().main().call();
        for (ResultSet named : call == null ? List.<ResultSet>of() : call.results()) {
            byte[] written = results.get(named.name());
            json.writeName(named.name());
            json.writeRawValue(
                    written == null ? named.single() ? "null" : "[]" : new String(written, StandardCharsets.UTF_8));
        }
    }

    @Override
    public void result(ResultSet named, List<Field> fields, Rows rows) {
        RowWriter rowWriter = running.writerOf(shaped(fields));
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(256);
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), bytes)) {
            if (named.single()) {
                if (rows.next()) {
                    rowWriter.write(rows, json);
                } else {
                    json.writeNull();
                }
            } else {
                json.writeStartArray();
                int count = 0;
                while (rows.next()) {
                    if (++count > MOST_RESULT_ROWS) {
                        throw new TooManyRows(named.name());
                    }
                    rowWriter.write(rows, json);
                }
                json.writeEndArray();
            }
        }
        results.put(named.name(), bytes.toByteArray());
    }

    /** A procedure returned more than an answer may hold. */
    static final class TooManyRows extends RuntimeException {
        TooManyRows(String result) {
            super("the result set '" + result + "' has more than " + MOST_RESULT_ROWS + " rows");
        }
    }

    private static List<ShapedField> shaped(List<Field> fields) {
        List<ShapedField> shaped = new ArrayList<>(fields.size());
        for (int i = 0; i < fields.size(); i++) {
            Field field = fields.get(i);
            shaped.add(ShapedField.plain(i, field.name(), field.type(), field.nullable()));
        }
        return shaped;
    }
}
