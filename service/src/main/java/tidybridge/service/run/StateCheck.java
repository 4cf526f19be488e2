package tidybridge.service.run;

import java.io.ByteArrayOutputStream;
import java.time.ZonedDateTime;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.JsonRowSink;
import tidybridge.core.answer.RowSink;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.Need;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.Variant;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Rows;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Transaction;

/**
 * Compares the state of what a change is about to change with what the caller believes. It is compared inside the transaction of the
 * change, on rows that are locked from then on, so that of two who read the same state exactly one can change it.
 */
final class StateCheck {

    private static final int ONE_ROW_AHEAD = 2;

    private static final int CREATED = 201;

    private final RunnableOperation operation;
    private final Inputs inputs;
    private final ChangePlan plan;
    private final StateCondition condition;
    private final RunnableOperation.@Nullable Guard guard;
    private final @Nullable Bound bound;
    private final @Nullable RowWriter writer;

    /**
     * The state of what a route holds.
     *
     * @param tag null where the read tells none
     * @param modified null where the read tells none
     */
    private record State(
            boolean found, @Nullable String tag, @Nullable ZonedDateTime modified) {
        private static final State NOTHING = new State(false, null, null);
    }

    /**
     * Prepares to compare.
     *
     * @throws Refusal when the caller says nothing and must, or says something that cannot be compared here
     */
    StateCheck(RunnableOperation operation, ChangePlan plan, StateCondition condition, Inputs inputs)
            throws Refusal, BadInput {
        this.operation = operation;
        this.inputs = inputs;
        this.plan = plan;
        this.condition = condition;
        this.guard = operation.guard();
        if (guard == null && condition.said() && !isHarmless()) {
            throw new Refusal(
                    ProblemKind.STATE_CHANGED,
                    "This call cannot tell one state from another, so it cannot be made conditional; leave If-Match out.");
        }
        if (plan.precondition() == Need.REQUIRED && !protects()) {
            throw new Refusal(
                    ProblemKind.STATE_NEEDED,
                    "Send the ETag of what you have read in If-Match, so that nobody else's change is lost.");
        }
        if (condition.unmodifiedSince() != null && !tellsTime()) {
            throw new Refusal(
                    ProblemKind.STATE_CHANGED,
                    "This call tells states apart by their tags alone; send the ETag of what you have read in If-Match.");
        }
        this.bound = guard == null ? null : guard.plan().binder().bind(new PathInputs(inputs));
        this.writer = guard == null ? null : guard.writers().of(inputs.caller().privileges());
    }

    /** A read of several steps is in no state that is told: nothing says that the caller has it already. */
    private boolean isHarmless() {
        StateCondition.Tags match = condition.match();
        return plan.sequence().readOnly() && (match == null || match.all());
    }

    /** True when what the caller says will be compared with something that changes with the state. */
    private boolean protects() {
        StateCondition.Tags noneMatch = condition.noneMatch();
        return condition.match() != null
                || condition.unmodifiedSince() != null && tellsTime()
                || noneMatch != null && noneMatch.all();
    }

    private boolean tellsTime() {
        return plan.sequence().readOnly()
                || guard != null && guard.plan().reply().modified() >= 0;
    }

    /** Compares the state that is there now, and locks it. */
    void check(Transaction transaction) throws SourceFailure, Refusal {
        if (!condition.compares() || guard == null || bound == null) {
            return;
        }
        State state = state(transaction, guard, bound, writer, " for update");
        boolean matching = condition.match() != null;
        if (!state.found && matching && plan.method() != Method.PUT) {
            throw new Refusal(ProblemKind.ROW_UNKNOWN, "Nothing is kept here under this identification.");
        }
        if (!condition.fits(state.found, state.tag, state.modified)) {
            throw new Refusal(
                    ProblemKind.STATE_CHANGED,
                    matching
                            ? "It was changed since you read it; read it again, then repeat your change."
                            : "It is there already, or was changed since; read it again.");
        }
    }

    /** Tells the tag and the time after the change, for the next one. */
    void tell(Transaction transaction, HeldAnswer answer) throws SourceFailure {
        String made = answer.status() == CREATED ? answer.location() : null;
        ModuleStates.Found elsewhere = made == null ? null : operation.states().at(made, inputs);
        if (elsewhere != null) {
            tell(transaction, elsewhere, answer);
        } else if (guard != null && bound != null && plan.method() != Method.DELETE && made == null) {
            State state = state(transaction, guard, bound, writer, "");
            answer.state(state.tag, state.modified);
        }
    }

    /** The state of what was made (RFC 9110, 15.3.2), as a read of it will tell it. */
    private void tell(Transaction transaction, ModuleStates.Found made, HeldAnswer answer) throws SourceFailure {
        try {
            Bound there = made.read().plan().binder().bind(made.inputs());
            RowWriter reader = made.read().writers().of(inputs.caller().privileges());
            State state = state(transaction, made.read(), there, reader, "");
            answer.state(state.tag, state.modified);
        } catch (BadInput e) {
            // the location is none that the read answers for; it is told without a state
        }
    }

    private State state(
            Transaction transaction,
            RunnableOperation.Guard guard,
            Bound bound,
            @Nullable RowWriter writer,
            String locking)
            throws SourceFailure {
        Variant form = guard.plan().statement().variant(bound.values());
        Variant locked = new Variant(form.sql() + locking, form.slots());
        State[] read = {State.NOTHING};
        transaction.read(locked, bound.values(), ONE_ROW_AHEAD, found -> {
            if (found.next()) {
                RowReply reply = guard.plan().reply();
                read[0] = new State(
                        true,
                        tag(found, reply.tag(), writer),
                        reply.modified() < 0 ? null : DatabaseTimes.read(found.text(reply.modified())));
            }
        });
        return read[0];
    }

    private static @Nullable String tag(Rows found, RowReply.@Nullable TagPlan tag, @Nullable RowWriter writer) {
        if (tag == null || writer == null) {
            return null;
        }
        if (tag.column() >= 0) {
            return EntityTags.of(tag, found.text(tag.column()));
        }
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(256);
        try (RowSink sink = new JsonRowSink(bytes)) {
            writer.write(found, sink);
        }
        return EntityTags.of(tag, bytes.toByteArray(), bytes.size());
    }
}
