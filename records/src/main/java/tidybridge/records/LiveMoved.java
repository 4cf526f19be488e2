package tidybridge.records;

import org.jspecify.annotations.Nullable;

/** Something else went live since what should replace it was looked at. */
public final class LiveMoved extends Exception {

    private final String module;
    private final int major;

    LiveMoved(String module, int major, @Nullable String now) {
        this(
                module,
                major,
                module + "/v" + major + " was changed by somebody else meanwhile",
                now == null ? "nothing is live now" : now + " is live now");
    }

    private LiveMoved(String module, int major, String what, String why) {
        super(what + ": " + why);
        this.module = module;
        this.major = major;
    }

    /** What was approved is not what would be published, or what it was approved for is not live any more. */
    static LiveMoved unapproved(NewRelease release) {
        String module = release.module();
        return new LiveMoved(
                module,
                release.version().major(),
                module + " " + release.version() + " is not approved any more",
                "its review was taken back, used or asked for anew");
    }

    /** {@code moorings/v1} */
    public String identity() {
        return module + "/v" + major;
    }
}
