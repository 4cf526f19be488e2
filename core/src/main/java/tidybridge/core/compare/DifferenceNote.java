package tidybridge.core.compare;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * A difference as it is kept and travels; it is read by programs that do not know its kind, too.
 *
 * @param kind the label of a {@link DifferenceKind}
 * @param effect the label of an {@link Effect}
 * @param operation {@code GET /berths}; null for the module as a whole
 * @param words one sentence
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record DifferenceNote(
        String kind, String effect, @Nullable String operation, String words) {

    public static DifferenceNote of(Difference difference) {
        return new DifferenceNote(
                difference.kind().label(), difference.effect().label(), difference.operation(), difference.words());
    }

    /** Those of a comparison. */
    public static List<DifferenceNote> of(Comparison comparison) {
        return comparison.differences().stream().map(DifferenceNote::of).toList();
    }

    /** True for one that lets callers down. */
    public boolean breaking() {
        return effect.equals(Effect.BREAKING.label());
    }

    /** As JSON. */
    public static String write(List<DifferenceNote> notes) {
        return JsonMapper.shared().writeValueAsString(notes);
    }

    /** What {@link #write} wrote. */
    public static List<DifferenceNote> read(String json) {
        return JsonMapper.shared().readValue(json, new TypeReference<>() {});
    }
}
