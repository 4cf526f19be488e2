package tidybridge.service.run;

import java.io.ByteArrayOutputStream;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.FieldName;
import tidybridge.core.answer.JsonRowSink;
import tidybridge.core.answer.Row;
import tidybridge.core.answer.RowSink;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.catalog.Field;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.StepDefinition.ResultSet;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.ChangeReply;
import tidybridge.core.plan.HeaderColumn;
import tidybridge.core.plan.StepPlan.CallPlan;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Rows;
import tidybridge.engine.Steps;

/** Writes the answer of a change while its steps run. Used once for each attempt. */
final class ChangeAnswer implements Steps.Answer {

    /** The most rows of one result set of a procedure; nothing that is not a collection may be endless. */
    static final int MOST_RESULT_ROWS = 10_000;

    private static final String JSON = "application/json";

    /** The statuses that a row may answer with, and those that it may refuse with. */
    private static final int FIRST_SUCCESS = 200;

    private static final int LAST_SUCCESS = 204;
    private static final int FIRST_PROBLEM = 400;
    private static final int LAST_PROBLEM = 599;

    private final ChangePlan plan;
    private final Function<List<ShapedField>, RowWriter> writers;
    private final RowWriter writer;
    private final HeldAnswer answer;
    private boolean unnamed;
    private final Map<String, byte[]> results = new LinkedHashMap<>();
    private @Nullable Problem refusal;

    /**
     * Begins an answer.
     *
     * @param writer for the caller's privileges
     * @param writers for rows that are only known when they come
     */
    ChangeAnswer(ChangePlan plan, RowWriter writer, Function<List<ShapedField>, RowWriter> writers) {
        this.plan = plan;
        this.writers = writers;
        this.writer = writer;
        this.answer = new HeldAnswer(plan.reply().status());
    }

    HeldAnswer answer() {
        return answer;
    }

    /** What the row itself refuses; null when it does not. */
    @Nullable
    Problem refusal() {
        return refusal;
    }

    @Override
    public void row(Row row, @Nullable Object[] values) {
        ChangeReply said = plan.reply();
        if (said.statusFrom() >= 0) {
            status(row, said);
        }
        for (HeaderColumn header : said.headers()) {
            String value = row.text(header.column());
            if (value != null) {
                answer.field(header.name(), value);
            }
        }
        if (said.location() != null) {
            answer.location(said.location().fill(row, values, ChangeAnswer::segment));
        }
        if (plan.answer() != AnswerKind.NOTHING) {
            answer.body(JSON, body(row));
        }
    }

    private static String segment(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }

    private void status(Row row, ChangeReply said) {
        String text = row.text(said.statusFrom());
        int status = text == null ? said.status() : text.matches("\\d{3}") ? Integer.parseInt(text) : 0;
        if (status >= FIRST_SUCCESS && status <= LAST_SUCCESS) {
            answer.status(status);
            return;
        }
        boolean refused = status >= FIRST_PROBLEM && status <= LAST_PROBLEM;
        String message = said.messageFrom() < 0 ? null : row.text(said.messageFrom());
        ProblemKind kind = refused ? ProblemKind.ofRefusal(status) : ProblemKind.FAILED;
        String usual = kind.meaning();
        refusal = Problem.of(kind, message == null ? usual : message).withStatus(refused ? status : kind.status());
    }

    private byte[] body(Row row) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(256);
        try (RowSink sink = new JsonRowSink(bytes)) {
            if (plan.answer() == AnswerKind.VALUE) {
                sink.beginValue();
                writer.writeValue(row, sink);
                sink.endValue();
            } else {
                sink.beginObject();
                writer.writeMembers(row, sink);
                writeResults(sink);
                sink.endObject();
            }
        }
        return bytes.toByteArray();
    }

    /** Every result set the text names is there, whether or not the procedure returned it. */
    private void writeResults(RowSink sink) {
        CallPlan call = plan.main().call();
        for (ResultSet named : call == null ? List.<ResultSet>of() : call.results()) {
            byte[] written = results.get(named.name());
            sink.name(new FieldName(named.name()));
            sink.json(written == null ? named.single() ? "null" : "[]" : new String(written, StandardCharsets.UTF_8));
        }
    }

    /** True when the procedure returned rows that nothing names. */
    boolean hasUnnamed() {
        return unnamed;
    }

    @Override
    public void unnamed() {
        unnamed = true;
    }

    @Override
    public void result(ResultSet named, List<Field> fields, Rows rows) {
        RowWriter rowWriter = writers.apply(shaped(fields));
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(256);
        try (RowSink sink = new JsonRowSink(bytes)) {
            if (named.single()) {
                if (rows.next()) {
                    rowWriter.write(rows, sink);
                } else {
                    sink.nothing();
                }
            } else {
                sink.beginList();
                int count = 0;
                while (rows.next()) {
                    if (++count > MOST_RESULT_ROWS) {
                        throw new TooManyRows(named.name());
                    }
                    rowWriter.write(rows, sink);
                }
                sink.endList();
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
