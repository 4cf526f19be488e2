package tidybridge.service.run;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Caller;
import tidybridge.core.bind.Inputs;

/** A request as the read of the same route sees it: its path and its caller, and nothing of its query and body. */
record PathInputs(Inputs request) implements Inputs {

    @Override
    public @Nullable String query() {
        return null;
    }

    @Override
    public String path(int index) {
        return request.path(index);
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
