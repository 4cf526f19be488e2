package tidybridge.core.compare;

import com.github.difflib.DiffUtils;
import com.github.difflib.algorithm.myers.MyersDiffWithLinearSpace;
import com.github.difflib.patch.AbstractDelta;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;

/**
 * Two texts that come from a common one, brought together line by line. What only one side changed is taken; where both changed the same
 * lines in different ways, both stand there between marks, and somebody settles it. Every byte of a line is kept, its end among them.
 *
 * @param text what came of it
 * @param unsettled the files in which somebody has to decide
 */
public record TextMerge(ModuleText text, SortedSet<String> unsettled) {

    /** Every mark has these words. */
    public static final String MARK = "both changed this, to be settled";

    /** A longer file is not merged line by line. */
    private static final int MOST_LINES = TextComparison.MOST_LINES;

    /**
     * Brings two texts together.
     *
     * @param base what both come from
     * @param mine one of them, whose folder is kept
     * @param theirs the other
     */
    public static TextMerge of(ModuleText base, ModuleText mine, ModuleText theirs) {
        SortedMap<String, String> files = new TreeMap<>();
        SortedSet<String> unsettled = new TreeSet<>();
        SortedSet<String> names = new TreeSet<>(mine.files().keySet());
        names.addAll(theirs.files().keySet());
        for (String name : names) {
            String before = base.files().get(name);
            String one = mine.files().get(name);
            String other = theirs.files().get(name);
            String merged = whole(before, one, other);
            if (merged == null && one != null && other != null) {
                Lines lines = new Lines(comment(name));
                merged = lines.merge(before == null ? "" : before, one, other);
                if (lines.unsettled) {
                    unsettled.add(name);
                }
            } else if (merged == null && !Objects.equals(one, other) && !isTaken(before, one, other)) {
                // one side changed what the other threw away
                merged = one == null ? other : one;
                unsettled.add(name);
            }
            if (merged != null) {
                files.put(name, merged);
            }
        }
        return new TextMerge(new ModuleText(mine.folder(), files), unsettled);
    }

    /** True when a text has marks in it that nobody has settled. */
    public static boolean isUnsettled(ModuleText text) {
        return text.files().values().stream().anyMatch(file -> file.contains(MARK));
    }

    private static String comment(String file) {
        return file.endsWith(".sql") ? "-- " : "# ";
    }

    /** The whole file of the side that changed it; null when both did, or when it is gone. */
    private static @Nullable String whole(@Nullable String before, @Nullable String one, @Nullable String other) {
        if (Objects.equals(one, other) || Objects.equals(before, other)) {
            return one;
        }
        return Objects.equals(before, one) ? other : null;
    }

    private static boolean isTaken(@Nullable String before, @Nullable String one, @Nullable String other) {
        return Objects.equals(before, other) || Objects.equals(before, one);
    }

    /** One file. */
    private static final class Lines {

        private final String comment;
        private final StringBuilder out = new StringBuilder();
        private boolean unsettled;

        Lines(String comment) {
            this.comment = comment;
        }

        String merge(String before, String one, String other) {
            List<String> base = split(before);
            List<String> mine = split(one);
            List<String> theirs = split(other);
            if (Math.max(base.size(), Math.max(mine.size(), theirs.size())) > MOST_LINES) {
                both(mine, theirs);
                return out.toString();
            }
            List<AbstractDelta<String>> ours = deltas(base, mine);
            List<AbstractDelta<String>> others = deltas(base, theirs);
            int at = 0;
            int i = 0;
            int j = 0;
            while (i < ours.size() || j < others.size()) {
                int from = Math.min(begin(ours, i), begin(others, j));
                int end = from;
                int firstOurs = i;
                int firstOthers = j;
                boolean grows = true;
                // whatever touches what was taken so far is decided together with it
                while (grows) {
                    grows = false;
                    if (begin(ours, i) <= end && (begin(ours, i) < end || i == firstOurs || j > firstOthers)) {
                        end = Math.max(end, end(ours.get(i)));
                        i++;
                        grows = true;
                    }
                    if (begin(others, j) <= end && (begin(others, j) < end || j == firstOthers || i > firstOurs)) {
                        end = Math.max(end, end(others.get(j)));
                        j++;
                        grows = true;
                    }
                }
                add(base.subList(at, from));
                settle(
                        base.subList(from, end),
                        applied(base, from, end, ours.subList(firstOurs, i)),
                        applied(base, from, end, others.subList(firstOthers, j)));
                at = end;
            }
            add(base.subList(at, base.size()));
            return out.toString();
        }

        private void settle(List<String> base, List<String> mine, List<String> theirs) {
            if (mine.equals(theirs) || theirs.equals(base)) {
                add(mine);
            } else if (mine.equals(base)) {
                add(theirs);
            } else {
                both(mine, theirs);
            }
        }

        private void both(List<String> mine, List<String> theirs) {
            unsettled = true;
            mark("yours");
            add(mine);
            mark("theirs");
            add(theirs);
            mark("end");
        }

        private void mark(String word) {
            if (!out.isEmpty() && out.charAt(out.length() - 1) != '\n') {
                out.append('\n');
            }
            out.append(comment).append(MARK).append(": ").append(word).append('\n');
        }

        private void add(List<String> lines) {
            lines.forEach(out::append);
        }

        private static int begin(List<AbstractDelta<String>> deltas, int i) {
            return i < deltas.size() ? deltas.get(i).getSource().getPosition() : Integer.MAX_VALUE;
        }

        private static int end(AbstractDelta<String> delta) {
            return delta.getSource().getPosition() + delta.getSource().size();
        }

        /** Some lines of the base after some changes of them. */
        private static List<String> applied(List<String> base, int from, int end, List<AbstractDelta<String>> deltas) {
            List<String> lines = new ArrayList<>();
            int at = from;
            for (AbstractDelta<String> delta : deltas) {
                lines.addAll(base.subList(at, delta.getSource().getPosition()));
                lines.addAll(delta.getTarget().getLines());
                at = end(delta);
            }
            lines.addAll(base.subList(at, end));
            return lines;
        }

        private static List<AbstractDelta<String>> deltas(List<String> before, List<String> now) {
            return DiffUtils.diff(before, now, new MyersDiffWithLinearSpace<>()).getDeltas();
        }

        /** The lines with their ends. */
        private static List<String> split(String text) {
            List<String> lines = new ArrayList<>();
            int at = 0;
            while (at < text.length()) {
                int end = text.indexOf('\n', at);
                int next = end < 0 ? text.length() : end + 1;
                lines.add(text.substring(at, next));
                at = next;
            }
            return lines;
        }
    }
}
