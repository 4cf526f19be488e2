package tidybridge.core.sql;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import tidybridge.core.sql.Token.Kind;

/**
 * Which tokens of a statement stay when some of its conditional parts vanish, so that what stays is still a statement: a condition
 * left at an end loses its AND or OR, a list its comma, and a clause or a pair of parentheses left empty goes too.
 */
final class Kept {

    private static final Set<String> BEFORE_GROUP = Set.of("AND", "OR", "NOT", "WHERE", "ON", "HAVING", "XOR");
    private static final Set<String> BEFORE_LIST = Set.of("BY", "SELECT", "DISTINCT", "SET");

    private final String text;
    private final List<Token> tokens;
    private final boolean[] kept;

    /**
     * Starts from what applies.
     *
     * @param kept for each token whether its part applies; changed by {@link #mended}
     */
    Kept(String text, List<Token> tokens, boolean[] kept) {
        this.text = text;
        this.tokens = tokens;
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
        if (before > 0 && is(before, "BY") && ends) {
            kept[before] = false;
            int word = before(before);
            return word >= 0 && drop(word);
        }
        return before >= 0 && behind < kept.length && emptied(before, behind);
    }

    /** {@code and ( )}: a pair of parentheses around conditions of which none is left. */
    private boolean emptied(int before, int behind) {
        if (tokens.get(before).kind() != Kind.OPEN || tokens.get(behind).kind() != Kind.CLOSE) {
            return false;
        }
        int around = before(before - 1);
        boolean group = around < 0
                || tokens.get(around).kind() == Kind.OPEN
                || tokens.get(around).kind() == Kind.WORD && BEFORE_GROUP.contains(word(around));
        if (!group) {
            return false;
        }
        kept[before] = false;
        kept[behind] = false;
        if (around >= 0 && is(around, "NOT")) {
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
        Token token = tokens.get(index);
        return switch (token.kind()) {
            case WORD -> is(index, "AND") || is(index, "OR") || is(index, "XOR");
            case SYMBOL -> text.charAt(token.start()) == ',';
            default -> false;
        };
    }

    private boolean opensConditions(int index) {
        return tokens.get(index).kind() == Kind.WORD && Keywords.OPEN_CONDITIONS.contains(word(index));
    }

    /** Something that is followed by a first condition or item. */
    private boolean opens(int index) {
        Token token = tokens.get(index);
        return token.kind() == Kind.OPEN
                || opensConditions(index)
                || token.kind() == Kind.WORD && BEFORE_LIST.contains(word(index));
    }

    private boolean ends(int index) {
        Token token = tokens.get(index);
        return token.kind() == Kind.CLOSE
                || token.kind() == Kind.WORD && (Keywords.END_CONDITIONS.contains(word(index)) || is(index, "FROM"));
    }

    private boolean is(int index, String word) {
        Token token = tokens.get(index);
        return token.kind() == Kind.WORD
                && token.end() - token.start() == word.length()
                && text.regionMatches(true, token.start(), word, 0, word.length());
    }

    private String word(int index) {
        Token token = tokens.get(index);
        return text.substring(token.start(), token.end()).toUpperCase(Locale.ROOT);
    }
}
