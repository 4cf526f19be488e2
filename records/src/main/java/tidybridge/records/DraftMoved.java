package tidybridge.records;

import org.jspecify.annotations.Nullable;

/** Somebody else changed a draft since it was read; nothing was changed now. */
public final class DraftMoved extends Exception {

    private final transient @Nullable Draft now;

    DraftMoved(@Nullable Draft now) {
        super("", null, false, false);
        this.now = now;
    }

    /** The draft as it is; null when there is none. */
    public @Nullable Draft now() {
        return now;
    }
}
