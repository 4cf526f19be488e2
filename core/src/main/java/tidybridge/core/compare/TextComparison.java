package tidybridge.core.compare;

import com.github.difflib.DiffUtils;
import com.github.difflib.algorithm.myers.MyersDiffWithLinearSpace;
import com.github.difflib.patch.AbstractDelta;
import com.github.difflib.patch.Patch;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.SortedSet;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;

/**
 * The texts of two modules, file by file and line by line.
 *
 * @param files those that differ, by name
 */
public record TextComparison(List<FileDifference> files) {

    /** Lines around a change that are shown with it. */
    private static final int AROUND = 3;

    /** A longer file is not compared line by line: the time that takes grows with the square of its changes. */
    static final int MOST_LINES = 5_000;

    /** What became of a file. */
    public enum State {
        ADDED,
        REMOVED,
        CHANGED
    }

    /**
     * A file that differs.
     *
     * @param pieces the lines that changed with some around them; empty for a file that is too long to be compared
     */
    public record FileDifference(String file, State state, List<Piece> pieces) {
        public FileDifference {
            pieces = List.copyOf(pieces);
        }
    }

    /** Lines that follow each other. */
    public record Piece(List<Line> lines) {
        public Piece {
            lines = List.copyOf(lines);
        }
    }

    /**
     * One line.
     *
     * @param before its number in the earlier text, from 1; null for one that is new
     * @param now its number in the later text, from 1; null for one that is gone
     */
    public record Line(@Nullable Integer before, @Nullable Integer now, String text) {}

    public TextComparison {
        files = List.copyOf(files);
    }

    /** Compares two texts. */
    public static TextComparison of(ModuleText earlier, ModuleText later) {
        SortedSet<String> names = new TreeSet<>(earlier.files().keySet());
        names.addAll(later.files().keySet());
        List<FileDifference> files = new ArrayList<>();
        for (String name : names) {
            String before = earlier.files().get(name);
            String now = later.files().get(name);
            if (!Objects.equals(before, now)) {
                State state = before == null ? State.ADDED : now == null ? State.REMOVED : State.CHANGED;
                files.add(new FileDifference(name, state, pieces(lines(before), lines(now))));
            }
        }
        return new TextComparison(files);
    }

    private static List<String> lines(@Nullable String text) {
        return text == null || text.isEmpty() ? List.of() : List.of(text.split("\r?\n", -1));
    }

    private static List<Piece> pieces(List<String> before, List<String> now) {
        if (before.size() > MOST_LINES || now.size() > MOST_LINES) {
            return List.of();
        }
        Patch<String> patch = DiffUtils.diff(before, now, new MyersDiffWithLinearSpace<>());
        List<Piece> pieces = new ArrayList<>();
        List<Line> open = new ArrayList<>();
        int from = 0;
        int shift = 0;
        for (AbstractDelta<String> delta : patch.getDeltas()) {
            int start = delta.getSource().getPosition();
            if (!open.isEmpty() && start - from > 2 * AROUND) {
                addSame(before, from, from + AROUND, shift, open);
                pieces.add(new Piece(goneFirst(open)));
                open.clear();
            }
            addSame(before, open.isEmpty() ? Math.max(from, start - AROUND) : from, start, shift, open);
            List<String> gone = delta.getSource().getLines();
            List<String> come = delta.getTarget().getLines();
            for (int i = 0; i < gone.size(); i++) {
                open.add(new Line(start + i + 1, null, gone.get(i)));
            }
            for (int i = 0; i < come.size(); i++) {
                open.add(new Line(null, delta.getTarget().getPosition() + i + 1, come.get(i)));
            }
            from = start + gone.size();
            shift += come.size() - gone.size();
        }
        if (!open.isEmpty()) {
            addSame(before, from, Math.min(before.size(), from + AROUND), shift, open);
            pieces.add(new Piece(goneFirst(open)));
        }
        return pieces;
    }

    /** What is gone stands before what came in its place. */
    private static List<Line> goneFirst(List<Line> lines) {
        List<Line> ordered = new ArrayList<>();
        List<Line> come = new ArrayList<>();
        for (Line line : lines) {
            if (line.before() == null) {
                come.add(line);
                continue;
            }
            if (line.now() != null) {
                ordered.addAll(come);
                come.clear();
            }
            ordered.add(line);
        }
        ordered.addAll(come);
        return ordered;
    }

    private static void addSame(List<String> before, int from, int until, int shift, List<Line> lines) {
        for (int i = from; i < until; i++) {
            lines.add(new Line(i + 1, i + 1 + shift, before.get(i)));
        }
    }
}
