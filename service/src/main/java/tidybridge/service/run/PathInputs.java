package tidybridge.service.run;

import java.time.Instant;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Caller;
import tidybridge.core.bind.Inputs;

/** A request as a read sees it: a path and its caller, and nothing of its query and body. */
record PathInputs(Inputs request, IntFunction<String> placeholders) implements Inputs {

    PathInputs(Inputs request) {
        this(request, request::path);
    }

    /** The same request as a read elsewhere sees it. */
    static PathInputs at(String location, int[] captures, Inputs request) {
        return new PathInputs(request, index -> location.substring(captures[2 * index], captures[2 * index + 1]));
    }

    @Override
    public @Nullable String query() {
        return null;
    }

    @Override
    public String path(int index) {
        return placeholders.apply(index);
    }

    @Override
    public @Nullable String header(String name) {
        return null;
    }

    @Override
    public @Nullable String cookie(String name) {
        return null;
    }

    @Override
    public byte @Nullable [] body() {
        return null;
    }

    @Override
    public Caller caller() {
        return request.caller();
    }

    @Override
    public String requestId() {
        return request.requestId();
    }

    @Override
    public Instant requestTime() {
        return request.requestTime();
    }
}
