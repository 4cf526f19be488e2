package tidybridge.engine;

import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import java.util.function.Supplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;

/**
 * Tells which statements may run a stored function, by themselves or through a view. The server reports most of what a function leaves in
 * its session, but not the named locks it takes. Thread-safe.
 */
final class RoutineCalls {

    private static final Pattern WORD = Pattern.compile("[\\p{L}\\p{N}_$]+");

    /** Takes a lock that outlives the statement. */
    private static final String LOCKING = "get_lock";

    private final Supplier<@Nullable Contents> known;
    private volatile @Nullable Names names;

    private record Names(@Nullable Contents of, Set<String> running) {}

    /**
     * Prepares to tell.
     *
     * @param known what the source was last seen to hold; null before the first look
     */
    RoutineCalls(Supplier<@Nullable Contents> known) {
        this.known = known;
    }

    /** True also for a text that only mentions such a name: that costs a little time, and never a right answer. */
    boolean in(String sql) {
        return mentions(sql, running());
    }

    private Set<String> running() {
        Contents contents = known.get();
        Names now = names;
        if (now == null || now.of() != contents) {
            now = new Names(contents, contents == null ? Set.of(LOCKING) : running(contents));
            names = now;
        }
        return now.running();
    }

    private static Set<String> running(Contents contents) {
        Set<String> running = new HashSet<>(Set.of(LOCKING));
        for (Routine routine : contents.routines()) {
            if (routine.kind() == Routine.Kind.FUNCTION) {
                running.add(routine.name().toLowerCase(Locale.ROOT));
            }
        }
        // views over views: each round reaches one deeper
        int before = 0;
        while (before != running.size()) {
            before = running.size();
            for (Relation relation : contents.relations()) {
                String definition = relation.definition();
                if (definition != null && mentions(definition, running)) {
                    running.add(relation.name().toLowerCase(Locale.ROOT));
                }
            }
        }
        return running;
    }

    private static boolean mentions(String text, Set<String> names) {
        Matcher word = WORD.matcher(text);
        while (word.find()) {
            if (names.contains(word.group().toLowerCase(Locale.ROOT))) {
                return true;
            }
        }
        return false;
    }
}
