package tidybridge.core.compare;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Collects differences. Not thread-safe. */
final class Differences {

    private final Set<Difference> all = new LinkedHashSet<>();
    private @Nullable String operation;

    /** What is added from now on is about an operation; null for the module as a whole. */
    void about(@Nullable String label) {
        operation = label;
    }

    void add(DifferenceKind kind, String words) {
        all.add(new Difference(kind, operation, words));
    }

    /** Adds what is so since, or no longer so. */
    void addIf(
            boolean before, boolean now, DifferenceKind gone, String goneWords, DifferenceKind come, String comeWords) {
        if (before && !now) {
            add(gone, goneWords);
        } else if (now && !before) {
            add(come, comeWords);
        }
    }

    /** Adds one for each member that a list lost, and for each that it got; {@code {}} in the words stands for the member. */
    void addMembers(
            List<String> before,
            List<String> now,
            DifferenceKind gone,
            String goneWords,
            DifferenceKind come,
            String comeWords) {
        for (String member : new TreeSet<>(before)) {
            if (!now.contains(member)) {
                add(gone, goneWords.replace("{}", member));
            }
        }
        for (String member : new TreeSet<>(now)) {
            if (!before.contains(member)) {
                add(come, comeWords.replace("{}", member));
            }
        }
    }

    /** Each once, in the order in which they were found. */
    List<Difference> all() {
        return List.copyOf(all);
    }
}
