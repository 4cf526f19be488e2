package tidybridge.core.sql;

import java.util.EnumSet;
import java.util.Set;
import tidybridge.core.sql.Token.Kind;

/**
 * Which tokens of a statement stay when some of its conditional parts vanish, so that what stays is still a statement: a condition
 * left at an end loses its AND or OR, a list its comma, and a clause or a pair of parentheses left empty goes too.
 */
final class Mending {

    private static final Set<Word> BEFORE_GROUP =
            EnumSet.of(Word.AND, Word.OR, Word.NOT, Word.WHERE, Word.ON, Word.HAVING, Word.XOR);
    private static final Set<Word> BEFORE_LIST = EnumSet.of(Word.BY, Word.SELECT, Word.DISTINCT, Word.SET);

    private static final Set<Word> OPEN_CONDITIONS = EnumSet.of(Word.WHERE, Word.HAVING, Word.ON);
    private static final Set<Word> END_CONDITIONS = EnumSet.of(
            Word.GROUP,
            Word.HAVING,
            Word.ORDER,
            Word.LIMIT,
            Word.UNION,
            Word.EXCEPT,
            Word.INTERSECT,
            Word.FOR,
            Word.WINDOW,
            Word.LOCK,
            Word.WHERE,
            Word.JOIN,
            Word.LEFT,
            Word.RIGHT,
            Word.INNER,
            Word.CROSS,
            Word.NATURAL,
            Word.STRAIGHT_JOIN,
            Word.OFFSET,
            Word.FETCH,
            Word.RETURNING,
            Word.SET);

    private final TokenView view;
    private final boolean[] kept;

    /**
     * Starts from what applies.
     *
     * @param kept for each token whether its part applies; changed by {@link #mended}
     */
    Mending(TokenView view, boolean[] kept) {
        this.view = view;
        this.kept = kept;
    }

    boolean[] mended() {
        int at = 0;
        while (at < kept.length) {
            if (kept[at]) {
                at++;
                continue;
            }
            at = mendGap(at);
        }
        return kept;
    }

    /** Mends around the gap that a token lies in; the index behind the gap. */
    private int mendGap(int inside) {
        int before = before(inside);
        int behind = behind(inside);
        while (mendOnce(before, behind)) {
            before = before >= 0 && kept[before] ? before : before(inside);
            behind = behind < kept.length && kept[behind] ? behind : behind(inside);
        }
        return behind;
    }

    private int before(int index) {
        int i = index;
        while (i >= 0 && !kept[i]) {
            i--;
        }
        return i;
    }

    private int behind(int index) {
        int i = index;
        while (i < kept.length && !kept[i]) {
            i++;
        }
        return i;
    }

    /** Removes one thing that makes no sense beside the gap; false when all is well. */
    private boolean mendOnce(int before, int behind) {
        boolean ends = behind == kept.length || ends(behind);
        if (before >= 0 && joins(before) && (ends || joins(behind))) {
            return drop(ends ? before : behind);
        }
        if (before >= 0 && opens(before) && !ends && joins(behind)) {
            return drop(behind);
        }
        if (before >= 0 && opensConditions(before) && ends) {
            return drop(before);
        }
        if (before > 0 && view.is(before, Word.BY) && ends) {
            kept[before] = false;
            int word = before(before);
            return word >= 0 && drop(word);
        }
        return before >= 0 && behind < kept.length && emptied(before, behind);
    }

    /** {@code and ( )}: a pair of parentheses around conditions of which none is left. */
    private boolean emptied(int before, int behind) {
        if (view.kind(before) != Kind.OPEN || view.kind(behind) != Kind.CLOSE) {
            return false;
        }
        int around = before(before - 1);
        boolean group = around < 0 || view.kind(around) == Kind.OPEN || BEFORE_GROUP.contains(view.word(around));
        if (!group) {
            return false;
        }
        kept[before] = false;
        kept[behind] = false;
        if (around >= 0 && view.is(around, Word.NOT)) {
            kept[around] = false;
        }
        return true;
    }

    private boolean drop(int index) {
        kept[index] = false;
        return true;
    }

    /** AND, OR or a comma, which need something on both sides. */
    private boolean joins(int index) {
        return view.is(index, ',') || view.is(index, Word.AND) || view.is(index, Word.OR) || view.is(index, Word.XOR);
    }

    private boolean opensConditions(int index) {
        return OPEN_CONDITIONS.contains(view.word(index));
    }

    /** Something that is followed by a first condition or item. */
    private boolean opens(int index) {
        return view.kind(index) == Kind.OPEN || opensConditions(index) || BEFORE_LIST.contains(view.word(index));
    }

    private boolean ends(int index) {
        return view.kind(index) == Kind.CLOSE || END_CONDITIONS.contains(view.word(index)) || view.is(index, Word.FROM);
    }
}
