package tidybridge.service.traffic;

import org.jspecify.annotations.Nullable;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.problem.Problem;
import tidybridge.engine.SourceFailure;

/**
 * What becomes known of one call on its way through the gateway. Made once for each call, filled by one thread, and handed to a
 * {@link CallObserver} when the call has ended. It holds no value of the caller's.
 */
public final class CallRecord {

    private final long begunNanos = System.nanoTime();
    private @Nullable String module;
    private @Nullable OperationPlan operation;
    private @Nullable String caller;
    private @Nullable Problem problem;
    private @Nullable String reason;
    private String requestId = "";
    private String address = "";
    private @Nullable SourceFailure failure;
    private long rows;
    private int status;

    /** When it came, by {@link System#nanoTime}. */
    public long begunNanos() {
        return begunNanos;
    }

    /** {@code moorings/v1}; null while the path leads to none. */
    public @Nullable String module() {
        return module;
    }

    public void module(String identity) {
        module = identity;
    }

    /** Null while the path and the method lead to none. */
    public @Nullable OperationPlan operation() {
        return operation;
    }

    public void operation(OperationPlan plan) {
        operation = plan;
    }

    /** The caller's name; null for somebody unknown, and while nobody had to know. */
    public @Nullable String caller() {
        return caller;
    }

    public void caller(@Nullable String name) {
        caller = name;
    }

    /** What the caller was told instead of an answer; null for an answer. */
    public @Nullable Problem problem() {
        return problem;
    }

    public void problem(Problem told) {
        problem = told;
    }

    /** Why it was refused, for whoever runs the service; null for an answer. */
    public @Nullable String reason() {
        return reason;
    }

    /** What the request is called; empty for an answer. */
    public String requestId() {
        return requestId;
    }

    /** Where it came from; empty for an answer. */
    public String address() {
        return address;
    }

    /** What is worth knowing of a call that was refused. */
    public void refused(String why, String id, String from) {
        reason = why;
        requestId = id;
        address = from;
    }

    /** What the database said; null when it did what it should. */
    public @Nullable SourceFailure failure() {
        return failure;
    }

    public void failure(SourceFailure reason) {
        failure = reason;
    }

    /** How many rows were read for the answer. */
    public long rows() {
        return rows;
    }

    public void rows(long count) {
        rows = count;
    }

    /** The status that was sent. */
    public int status() {
        return status;
    }

    public void status(int sent) {
        status = sent;
    }
}
