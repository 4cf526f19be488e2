package tidybridge.engine;

import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.Row;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.definition.StepDefinition.ChangeLimit;
import tidybridge.core.definition.StepDefinition.Expect;
import tidybridge.core.definition.StepDefinition.ResultSet;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.StepPlan;
import tidybridge.core.plan.StepPlan.CallPlan;
import tidybridge.core.plan.StepPlan.Saved;
import tidybridge.core.plan.StepSequence;
import tidybridge.core.plan.Variant;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.text.Place;

/** Runs the steps of a change in a transaction. Used once for each attempt. */
public final class Steps {

    private static final int ONE_ROW_AHEAD = 2;
    private static final int CONFLICT = 409;
    private static final int NOT_FOUND = 404;

    private final Transaction transaction;
    private final ChangePlan plan;
    private final StepSequence sequence;
    private final Answer answer;

    /** Takes what the steps hand back. */
    public interface Answer {
        /**
         * Takes the row that is the answer.
         *
         * @param values all values of the run as far as they are known
         */
        void row(Row row, @Nullable Object[] values);

        /** Takes a result set of the procedure that answers; called before {@link #row}. */
        void result(ResultSet named, List<Field> fields, Rows rows);

        /** Hears of a result set that nothing names; its rows are not read. */
        void unnamed();
    }

    /** A step found what the definition does not allow; everything is to be rolled back. */
    public static final class Refused extends Exception {
        private final Problem problem;

        public Refused(Problem problem) {
            super(problem.detail(), null, false, false);
            this.problem = problem;
        }

        public Problem problem() {
            return problem;
        }
    }

    public Steps(Transaction transaction, ChangePlan plan, Answer answer) {
        this.transaction = transaction;
        this.plan = plan;
        this.sequence = plan.sequence();
        this.answer = answer;
    }

    /**
     * Runs all steps.
     *
     * @param given in the order of the operation's parameters, null when absent
     * @throws Refused when a guard, a limit or a missing row says so
     */
    public void run(@Nullable Object[] given) throws SourceFailure, Refused {
        @Nullable Object[] values = Arrays.copyOf(given, sequence.values());
        for (int i = 0; i < sequence.steps().size(); i++) {
            StepPlan step = sequence.steps().get(i);
            boolean answers = i == sequence.answeredBy();
            Variant form = step.statement().variant(values);
            CallPlan call = step.call();
            if (call != null) {
                call(step, call, form, values, answers);
                if (transaction.isEnded() && i < sequence.steps().size() - 1) {
                    throw transaction.cannotGoOn();
                }
            } else if (step.reads()) {
                read(step, form, values, answers);
            } else {
                Transaction.Changed changed = transaction.change(form, values);
                check(step, changed.rows());
                boolean keyAlone = step.columns().getFirst().name().equals(StepPlan.KEY);
                handOn(
                        step,
                        keyAlone ? new ValuesRow(changed.key()) : new ValuesRow(changed.rows(), changed.key()),
                        values,
                        answers);
            }
        }
    }

    private void read(StepPlan step, Variant form, @Nullable Object[] values, boolean answers)
            throws SourceFailure, Refused {
        Reading reading = new Reading(step, values, answers);
        transaction.read(form, values, step.returnsRows() ? 0 : ONE_ROW_AHEAD, reading::read);
        if (step.returnsRows()) {
            check(step, reading.rows);
        } else if (step.expect() == Expect.NO_ROW ? reading.rows > 0 : reading.rows == 0 && isNeeded(step, answers)) {
            throw refused(step, reading.message);
        }
    }

    private static boolean isNeeded(StepPlan step, boolean answers) {
        return answers || step.expect() == Expect.ROW;
    }

    /** The reading of a step's rows. */
    private final class Reading {
        private final StepPlan step;
        private final @Nullable Object[] values;
        private final boolean answers;
        private long rows;
        private @Nullable String message;

        Reading(StepPlan step, @Nullable Object[] values, boolean answers) {
            this.step = step;
            this.values = values;
            this.answers = answers;
        }

        void read(Rows found) {
            if (!found.next()) {
                return;
            }
            rows = 1;
            if (step.expect() == Expect.NO_ROW) {
                message = step.message() == null ? null : step.message().fill(found, values, UnaryOperator.identity());
                return;
            }
            handOn(step, found, values, answers);
            while (step.returnsRows() && found.next()) {
                rows++;
            }
        }
    }

    private void call(StepPlan step, CallPlan call, Variant form, @Nullable Object[] values, boolean answers)
            throws SourceFailure {
        Transaction.CallOutputs called = transaction.call(form, values, call.outs(), (index, fields, rows) -> {
            if (answers && index < call.results().size()) {
                answer.result(call.results().get(index), fields, rows);
            } else {
                answer.unnamed();
            }
        });
        handOn(step, new ValuesRow(called.values()), values, answers);
    }

    private void handOn(StepPlan step, Row row, @Nullable Object[] values, boolean answers) {
        for (Saved saved : step.saved()) {
            values[saved.value()] = value(row, saved);
        }
        if (answers) {
            answer.row(row, values);
        }
    }

    private static @Nullable Object value(Row row, Saved saved) {
        FieldType type = saved.type();
        return switch (type) {
            case BINARY, BITS, GEOMETRY -> row.bytes(saved.column());
            case INTEGER, BOOLEAN -> {
                long number = row.integer(saved.column());
                yield row.wasNull() ? null : Long.valueOf(number);
            }
            case DECIMAL -> {
                String number = row.text(saved.column());
                yield number == null ? null : new BigDecimal(number);
            }
            case FLOAT -> {
                double number = row.real(saved.column());
                yield row.wasNull() ? null : Double.valueOf(number);
            }
            case STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, JSON -> row.text(saved.column());
        };
    }

    private void check(StepPlan step, long rows) throws Refused {
        check(plan, step, rows);
    }

    /** Refuses a change that touched no row where one was meant, or more than it may. */
    public static void check(ChangePlan plan, StepPlan step, long rows) throws Refused {
        ChangeLimit limit = step.limit();
        if (rows == 0 && limit.needed()) {
            RefusalRule otherwise = step.otherwise();
            throw new Refused(
                    otherwise == null
                            ? Problem.of(ProblemKind.ROW_UNKNOWN, "Nothing is kept here under this identification.")
                            : plan.conditions().refusal(otherwise, otherwise.message(), "There is no such row."));
        }
        long most = step.replaces() && limit.most() < Integer.MAX_VALUE ? 2L * limit.most() : limit.most();
        if (limit.most() < Integer.MAX_VALUE && rows > most) {
            throw new Refused(Problem.of(
                    ProblemKind.TOO_MANY_CHANGES,
                    "This would change " + rows + " rows, and at most " + limit.most()
                            + " may change at once; nothing was changed. Ask for fewer."));
        }
    }

    private Refused refused(StepPlan step, @Nullable String message) {
        boolean found = step.expect() == Expect.NO_ROW;
        String usual =
                found ? "What is there already stands against it." : "Nothing is kept here under this identification.";
        RefusalRule otherwise = step.otherwise();
        String sentence = message != null || otherwise == null ? message : otherwise.message();
        RefusalRule rule = otherwise == null
                ? new RefusalRule(
                        RefusalRule.code(step.name().isEmpty() ? "refused" : step.name()),
                        found ? CONFLICT : NOT_FOUND,
                        null,
                        null,
                        Place.of(step.statement().file()))
                : otherwise;
        return new Refused(plan.conditions().refusal(rule, sentence, usual));
    }
}
