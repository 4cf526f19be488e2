package tidybridge.service.run;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.BatchRule;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.StepPlan;
import tidybridge.core.plan.Variant;
import tidybridge.core.problem.InputError;
import tidybridge.core.problem.Problem;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Steps;
import tidybridge.engine.Transaction;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** Runs one statement for many rows of a request, all of them or each for itself. Used once for each attempt. */
final class BatchRun {

    private static final JsonFactory JSON = new JsonFactory();

    private final ChangePlan plan;
    private final StepPlan step;
    private final Transaction transaction;
    private final List<@Nullable Object[]> rows;

    BatchRun(ChangePlan plan, Transaction transaction, List<@Nullable Object[]> rows) {
        this.plan = plan;
        this.step = plan.main();
        this.transaction = transaction;
        this.rows = rows;
    }

    /** The answer's body: how many rows changed, and for rows on their own what became of each. */
    byte[] run(BatchRule.Outcome outcome) throws SourceFailure, Steps.Refused {
        return switch (outcome) {
            case TOGETHER -> counted(together());
            case SEPARATE -> separate();
        };
    }

    private static byte[] counted(long changed) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), bytes)) {
            json.writeStartObject();
            json.writeNumberProperty(StepPlan.CHANGED, changed);
            json.writeEndObject();
        }
        return bytes.toByteArray();
    }

    /** Neighbours with the same form of the statement go to the database together. */
    private long together() throws SourceFailure, Steps.Refused {
        long changed = 0;
        int from = 0;
        while (from < rows.size()) {
            Variant form = form(rows.get(from));
            int to = from + 1;
            while (to < rows.size() && form(rows.get(to)) == form) {
                to++;
            }
            changed += together(form, from, to);
            from = to;
        }
        return changed;
    }

    private long together(Variant form, int from, int to) throws SourceFailure, Steps.Refused {
        try {
            long[] counts = transaction.changeAll(form, rows.subList(from, to), from);
            long changed = 0;
            for (int i = 0; i < counts.length; i++) {
                check(from + i, counts[i]);
                changed += counts[i];
            }
            return changed;
        } catch (Transaction.RowRefused e) {
            Problem problem = plan.conditions().problem(e.failure().condition());
            throw new Steps.Refused(at(e.row(), problem));
        }
    }

    private void check(int row, long count) throws Steps.Refused {
        try {
            Steps.check(plan, step, count);
        } catch (Steps.Refused e) {
            throw new Steps.Refused(at(row, e.problem()));
        }
    }

    private Variant form(@Nullable Object[] values) {
        return step.statement().variant(values);
    }

    /** The same problem, blaming a row of the body. */
    private static Problem at(int row, Problem problem) {
        List<InputError> errors = new ArrayList<>();
        for (InputError error : problem.errors()) {
            boolean body = error.in().equals("body");
            errors.add(body ? new InputError("/" + row + error.name(), "body", error.detail()) : error);
        }
        if (errors.isEmpty()) {
            errors.add(new InputError("/" + row, "body", problem.detail()));
        }
        return problem.withErrors(errors);
    }

    private byte[] separate() throws SourceFailure {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(rows.size() * 48);
        long changed = 0;
        int refused = 0;
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), bytes)) {
            json.writeStartObject();
            json.writeArrayPropertyStart("data");
            for (int i = 0; i < rows.size(); i++) {
                json.writeStartObject();
                json.writeNumberProperty("index", i);
                Transaction.Changed done = one(i, json);
                changed += done == null ? 0 : done.rows();
                refused += done == null ? 1 : 0;
                json.writeEndObject();
            }
            json.writeEndArray();
            json.writeNumberProperty(StepPlan.CHANGED, changed);
            json.writeNumberProperty("refused", refused);
            json.writeEndObject();
        }
        return bytes.toByteArray();
    }

    /** Runs one row; null, with its problem written, when it is refused. */
    private Transaction.@Nullable Changed one(int row, JsonGenerator json) throws SourceFailure {
        Problem problem;
        transaction.save();
        try {
            Transaction.Changed done = transaction.change(form(rows.get(row)), rows.get(row));
            check(row, done.rows());
            json.writeNumberProperty("status", plan.reply().status());
            json.writeNumberProperty(StepPlan.CHANGED, done.rows());
            if (done.key() != null) {
                json.writeNumberProperty(StepPlan.KEY, done.key());
            }
            return done;
        } catch (SourceFailure e) {
            if (e.endsTransaction()) {
                throw e;
            }
            problem = at(row, plan.conditions().problem(e.condition()));
        } catch (Steps.Refused e) {
            problem = e.problem();
        }
        transaction.goBack();
        json.writeNumberProperty("status", problem.status());
        json.writeName("problem");
        json.writeRawValue(new String(problem.json(), StandardCharsets.UTF_8));
        return null;
    }
}
