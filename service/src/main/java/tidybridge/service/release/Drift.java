package tidybridge.service.release;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How far a database has moved away from what a live release was published against.
 *
 * @param identity {@code moorings/v1}
 * @param release its number
 * @param notes what no longer fits; empty where everything does
 */
public record Drift(String identity, long release, Instant checkedAt, List<Note> notes) {

    public Drift {
        notes = List.copyOf(notes);
    }

    /**
     * Something that no longer fits.
     *
     * @param operation whom it concerns, {@code GET /berths}; null for the module as a whole
     * @param breaking true when its callers are let down, false for what is slower or less sure
     * @param words one sentence
     */
    public record Note(@Nullable String operation, boolean breaking, String words) {}

    /** True when some caller is let down. */
    public boolean breaks() {
        return notes.stream().anyMatch(Note::breaking);
    }
}
