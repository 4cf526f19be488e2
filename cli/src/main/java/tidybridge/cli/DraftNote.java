package tidybridge.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Which revision of a draft the text in a module's folder comes from. It stands in the folder as {@value #FILE}, belongs to this copy of the
 * text alone, and not into version control.
 *
 * @param service where the draft is
 */
record DraftNote(String service, String draft, int revision) {

    static final String FILE = ".draft.json";

    /** The note in a folder; null for none, and for one of another service or draft. */
    static @Nullable DraftNote read(Path folder, Service service, String draft) {
        Path file = folder.resolve(FILE);
        if (!Files.isRegularFile(file)) {
            return null;
        }
        try {
            DraftNote note = JsonMapper.shared().readValue(Files.readAllBytes(file), DraftNote.class);
            return service.address().toString().equals(note.service()) && draft.equals(note.draft()) ? note : null;
        } catch (IOException | JacksonException e) {
            return null;
        }
    }

    void write(Path folder) {
        try {
            Files.write(folder.resolve(FILE), JsonMapper.shared().writeValueAsBytes(this));
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + folder.resolve(FILE) + " cannot be written.");
        }
    }

    static void remove(Path folder) {
        try {
            Files.deleteIfExists(folder.resolve(FILE));
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + folder.resolve(FILE) + " cannot be removed.");
        }
    }

    /** What a change of the draft depends on. */
    static Map.Entry<String, String> condition(@Nullable DraftNote note) {
        return note == null ? Map.entry("If-None-Match", "*") : Map.entry("If-Match", "\"" + note.revision() + "\"");
    }
}
