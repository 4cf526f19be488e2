package tidybridge.core.sql;

import java.util.EnumSet;
import java.util.Set;
import tidybridge.core.sql.Token.Kind;

/** Tells the semicolons between statements from those inside {@code BEGIN ... END} bodies. */
final class Bodies {

    private static final Set<Word> WITH_BODY =
            EnumSet.of(Word.PROCEDURE, Word.FUNCTION, Word.TRIGGER, Word.EVENT, Word.PACKAGE);
    private static final Set<Word> OPENING =
            EnumSet.of(Word.BEGIN, Word.CASE, Word.IF, Word.LOOP, Word.WHILE, Word.REPEAT, Word.FOR);

    private final TokenView view;

    Bodies(TokenView view) {
        this.view = view;
    }

    /** True when the statement that starts at a token is a block, labelled or not. */
    boolean isBlock(int first) {
        int at = first;
        if (at + 1 < view.size() && view.is(at + 1, ':')) {
            at += 2;
        }
        return view.is(at, Word.BEGIN)
                && at + 1 < view.size()
                && !view.is(at + 1, Word.WORK)
                && view.kind(at + 1) != Kind.SEMICOLON;
    }

    /** The index of the semicolon that ends the statement which starts at a token; the number of tokens when none does. */
    int end(int first) {
        boolean body = isBlock(first) || definesBody(first);
        int depth = 0;
        for (int i = first; i < view.size(); i++) {
            if (view.kind(i) == Kind.SEMICOLON && depth == 0) {
                return i;
            }
            if (body && view.kind(i) == Kind.WORD) {
                if (view.is(i, Word.END)) {
                    depth = Math.max(0, depth - 1);
                    // END IF, END LOOP: the word behind END opens nothing
                    i += i + 1 < view.size() && OPENING.contains(view.word(i + 1)) ? 1 : 0;
                } else if (opens(i)) {
                    depth++;
                }
            }
        }
        return view.size();
    }

    private boolean definesBody(int first) {
        if (!view.is(first, Word.CREATE)) {
            return false;
        }
        for (int i = first + 1; i < view.size() && view.kind(i) != Kind.SEMICOLON; i++) {
            if (WITH_BODY.contains(view.word(i))) {
                return true;
            }
        }
        return false;
    }

    /** IF opens a block as a statement, not as the function {@code if(...)} or in {@code if exists}. */
    private boolean opens(int index) {
        Word word = view.word(index);
        if (!OPENING.contains(word)) {
            return false;
        }
        boolean startsStatement = index == 0
                || view.kind(index - 1) == Kind.SEMICOLON
                || view.is(index - 1, ':')
                || view.is(index - 1, Word.THEN)
                || view.is(index - 1, Word.ELSE)
                || view.is(index - 1, Word.DO)
                || view.is(index - 1, Word.LOOP)
                || view.is(index - 1, Word.REPEAT)
                || view.is(index - 1, Word.ATOMIC)
                || view.is(index - 1, Word.BEGIN);
        return word == Word.BEGIN || word == Word.CASE || startsStatement;
    }
}
