package tidybridge.service.gateway;

import java.io.ByteArrayOutputStream;
import java.time.ZonedDateTime;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.Need;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.ReplyPlan;
import tidybridge.core.plan.Start;
import tidybridge.core.plan.Variant;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Transaction;
import tidybridge.service.live.Running;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/**
 * What a caller says about the state they mean to change (RFC 9110, 13). It is compared inside the transaction that changes it, on rows
 * that are locked from then on, so that of two who read the same state exactly one can change it.
 */
final class Precondition {

    private static final JsonFactory JSON = new JsonFactory();
    private static final int ONE_ROW_AHEAD = 2;

    private final OperationPlan operation;
    private final @Nullable Running guard;
    private final @Nullable Bound bound;
    private final @Nullable RowWriter writer;
    private final @Nullable String match;
    private final @Nullable String noneMatch;
    private final @Nullable ZonedDateTime unmodified;

    /** The state of what a route holds; tag and time are null where the read tells none. */
    private static final class State {
        private boolean found;
        private @Nullable String tag;
        private @Nullable ZonedDateTime modified;
    }

    /**
     * Reads what a request says.
     *
     * @throws Refusal when it says nothing and must, or says something that cannot be compared here
     */
    Precondition(Running running, ChangePlan change, Inputs inputs) throws Refusal, BadInput {
        this.operation = running.plan();
        this.guard = running.guard();
        this.match = inputs.header("If-Match");
        this.noneMatch = inputs.header("If-None-Match");
        String since = inputs.header("If-Unmodified-Since");
        this.unmodified = HttpTimes.ofField(since);
        boolean says = match != null || noneMatch != null || since != null;
        if (guard == null && says) {
            throw new Refusal(
                    ProblemKind.STATE_CHANGED,
                    "This call cannot tell one state from another, so it cannot be made conditional; leave If-Match out.");
        }
        if (change.precondition() == Need.REQUIRED && !says) {
            throw new Refusal(
                    ProblemKind.STATE_NEEDED,
                    "Send the ETag of what you have read in If-Match, so that nobody else's change is lost.");
        }
        this.bound = guard == null ? null : guard.plan().binder().bind(new PathInputs(inputs));
        this.writer =
                guard == null ? null : guard.writer().unmasked(inputs.caller().privileges());
    }

    /** Compares the state that is there now, and locks it. */
    void check(Transaction transaction) throws SourceFailure, Refusal {
        if (match == null && noneMatch == null && unmodified == null) {
            return;
        }
        State state = state(transaction, " for update");
        if (!state.found && match != null && operation.method() != Method.PUT) {
            throw new Refusal(ProblemKind.ROW_UNKNOWN, "Nothing is kept here under this identification.");
        }
        boolean fits = match != null
                ? EntityTags.names(match, state.tag, false)
                : unmodified == null || state.modified == null || !state.modified.isAfter(unmodified);
        if (!fits || noneMatch != null && EntityTags.names(noneMatch, state.tag, true)) {
            throw new Refusal(
                    ProblemKind.STATE_CHANGED,
                    match != null
                            ? "It was changed since you read it; read it again, then repeat your change."
                            : "It is there already, or was changed since; read it again.");
        }
    }

    /** The tag and the time after the change, for the next one. */
    void tell(Transaction transaction, Reply reply) throws SourceFailure {
        if (guard == null || operation.method() == Method.DELETE) {
            return;
        }
        State state = state(transaction, "");
        if (state.tag != null) {
            reply.header("ETag", state.tag);
        }
        if (state.modified != null) {
            reply.header("Last-Modified", HttpTimes.field(state.modified));
        }
    }

    private State state(Transaction transaction, String locking) throws SourceFailure {
        State state = new State();
        if (guard == null || bound == null || writer == null) {
            return state;
        }
        OperationPlan read = guard.plan();
        Variant form = read.statement().variant(bound.values(), Start.BEGINNING);
        Variant locked = new Variant(form.sql() + locking, form.slots());
        RowWriter rows = writer;
        transaction.read(locked, bound.values(), ONE_ROW_AHEAD, found -> {
            state.found = found.next();
            if (state.found) {
                ReplyPlan reply = read.reply();
                ReplyPlan.TagPlan tag = reply.tag();
                if (tag != null && tag.column() >= 0) {
                    state.tag = EntityTags.of(tag, found.text(tag.column()));
                } else if (tag != null) {
                    ByteArrayOutputStream bytes = new ByteArrayOutputStream(256);
                    try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), bytes)) {
                        rows.write(found, json);
                    }
                    state.tag = EntityTags.of(tag, bytes.toByteArray(), bytes.size());
                }
                state.modified = reply.modified() < 0 ? null : HttpTimes.ofDatabase(found.text(reply.modified()));
            }
        });
        return state;
    }
}
