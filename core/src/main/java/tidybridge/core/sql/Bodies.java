package tidybridge.core.sql;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import tidybridge.core.sql.Token.Kind;

/** Tells the semicolons between statements from those inside {@code BEGIN ... END} bodies. */
final class Bodies {

    private static final Set<String> WITH_BODY = Set.of("PROCEDURE", "FUNCTION", "TRIGGER", "EVENT", "PACKAGE");
    private static final Set<String> OPENING = Set.of("BEGIN", "CASE", "IF", "LOOP", "WHILE", "REPEAT", "FOR");

    private final String text;
    private final List<Token> tokens;

    Bodies(String text, List<Token> tokens) {
        this.text = text;
        this.tokens = tokens;
    }

    /** True when the statement that starts at a token is a block, labelled or not. */
    boolean isBlock(int first) {
        int at = first;
        if (at + 1 < tokens.size() && isSymbol(at + 1, ':')) {
            at += 2;
        }
        return is(at, "BEGIN")
                && at + 1 < tokens.size()
                && !is(at + 1, "WORK")
                && tokens.get(at + 1).kind() != Kind.SEMICOLON;
    }

    /** The index of the semicolon that ends the statement which starts at a token; the number of tokens when none does. */
    int end(int first) {
        boolean body = isBlock(first) || definesBody(first);
        int depth = 0;
        for (int i = first; i < tokens.size(); i++) {
            Token token = tokens.get(i);
            if (token.kind() == Kind.SEMICOLON && depth == 0) {
                return i;
            }
            if (body && token.kind() == Kind.WORD) {
                if (is(i, "END")) {
                    depth = Math.max(0, depth - 1);
                    // END IF, END LOOP: the word behind END opens nothing
                    i += i + 1 < tokens.size() && OPENING.contains(word(i + 1)) ? 1 : 0;
                } else if (opens(i)) {
                    depth++;
                }
            }
        }
        return tokens.size();
    }

    private boolean definesBody(int first) {
        if (!is(first, "CREATE")) {
            return false;
        }
        for (int i = first + 1; i < tokens.size() && tokens.get(i).kind() != Kind.SEMICOLON; i++) {
            if (tokens.get(i).kind() == Kind.WORD && WITH_BODY.contains(word(i))) {
                return true;
            }
        }
        return false;
    }

    /** IF opens a block as a statement, not as the function {@code if(...)} or in {@code if exists}. */
    private boolean opens(int index) {
        String word = word(index);
        if (!OPENING.contains(word)) {
            return false;
        }
        boolean startsStatement = index == 0
                || tokens.get(index - 1).kind() == Kind.SEMICOLON
                || isSymbol(index - 1, ':')
                || is(index - 1, "THEN")
                || is(index - 1, "ELSE")
                || is(index - 1, "DO")
                || is(index - 1, "LOOP")
                || is(index - 1, "REPEAT")
                || is(index - 1, "ATOMIC")
                || is(index - 1, "BEGIN");
        return word.equals("BEGIN") || word.equals("CASE") || startsStatement;
    }

    private boolean isSymbol(int index, char symbol) {
        Token token = tokens.get(index);
        return token.kind() == Kind.SYMBOL && text.charAt(token.start()) == symbol;
    }

    private boolean is(int index, String word) {
        return index < tokens.size() && tokens.get(index).kind() == Kind.WORD && word.equals(word(index));
    }

    private String word(int index) {
        Token token = tokens.get(index);
        return text.substring(token.start(), token.end()).toUpperCase(Locale.ROOT);
    }
}
