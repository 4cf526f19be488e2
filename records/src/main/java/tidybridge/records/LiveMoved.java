package tidybridge.records;

import org.jspecify.annotations.Nullable;

/** Something else went live since what should replace it was looked at. */
public final class LiveMoved extends Exception {

    private final String module;
    private final int major;

    LiveMoved(String module, int major, @Nullable String now) {
        super(module + "/v" + major + " was changed by somebody else meanwhile: "
                + (now == null ? "nothing is live now" : now + " is live now"));
        this.module = module;
        this.major = major;
    }

    /** {@code moorings/v1} */
    public String identity() {
        return module + "/v" + major;
    }
}
