package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Token.Kind;

/** A statement's tokens with the questions one asks of them while reading: what stands where, and where a clause ends. */
final class TokenView {

    private static final Set<Word> CLAUSES = EnumSet.of(
            Word.FROM,
            Word.WHERE,
            Word.GROUP,
            Word.HAVING,
            Word.WINDOW,
            Word.ORDER,
            Word.LIMIT,
            Word.OFFSET,
            Word.FETCH,
            Word.FOR,
            Word.LOCK,
            Word.INTO,
            Word.UNION,
            Word.EXCEPT,
            Word.INTERSECT,
            Word.PROCEDURE,
            Word.RETURNING);

    private final String text;
    private final List<Token> tokens;
    private final int[] closes;

    TokenView(String text, List<Token> tokens) {
        this.text = text;
        this.tokens = List.copyOf(tokens);
        this.closes = closes(tokens);
    }

    /** For each opening parenthesis the index of its closing one. */
    private static int[] closes(List<Token> tokens) {
        int[] closes = new int[tokens.size()];
        IntStack open = new IntStack();
        for (int i = 0; i < closes.length; i++) {
            switch (tokens.get(i).kind()) {
                case OPEN -> open.push(i);
                case CLOSE -> closes[open.pop()] = i;
                default -> {}
            }
        }
        return closes;
    }

    int size() {
        return tokens.size();
    }

    /** The index of the parenthesis that closes the one at an index. */
    int close(int open) {
        return closes[open];
    }

    int offset(int index) {
        return tokens.get(index).start();
    }

    /** The index of a clause's word in a block, outside parentheses; {@code to} when it is not there. */
    int clause(Word word, int from, int to) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN) {
                i = closes[i];
            } else if (is(i, word) && !after(i, '.')) {
                return i;
            }
        }
        return to;
    }

    int endOfClause(int from, int to) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN) {
                i = closes[i];
            } else if (CLAUSES.contains(word(i)) && !after(i, '.')) {
                return i;
            }
        }
        return to;
    }

    boolean after(int index, char symbol) {
        return index > 0 && is(index - 1, symbol);
    }

    /** {@code column}, {@code alias.column} or {@code schema.table.column}, and nothing else between two tokens. */
    @Nullable
    ColumnRef column(int from, int to) {
        if (to - from == 1 && isName(from) && !isLiteralWord(from)) {
            return new ColumnRef(null, name(from));
        }
        if (to - from == 3 && isName(from) && is(from + 1, '.') && isName(from + 2)) {
            return new ColumnRef(name(from), name(from + 2));
        }
        if (to - from == 5 && isName(from) && is(from + 1, '.') && is(from + 3, '.') && isName(from + 4)) {
            return new ColumnRef(name(from + 2), name(from + 4));
        }
        return null;
    }

    /** A list of plain columns; null when anything else stands in it. */
    @Nullable
    List<ColumnRef> columns(int from, int to) {
        List<ColumnRef> columns = new ArrayList<>();
        int begin = from;
        for (int i = from; i <= to; i++) {
            if (i == to || is(i, ',')) {
                ColumnRef column = begin < i ? column(begin, i) : null;
                if (column == null) {
                    return null;
                }
                columns.add(column);
                begin = i + 1;
            } else if (kind(i) == Kind.OPEN) {
                i = closes[i];
            }
        }
        return columns;
    }

    boolean isLiteralWord(int index) {
        return is(index, Word.NULL) || is(index, Word.TRUE) || is(index, Word.FALSE) || is(index, Word.DEFAULT);
    }

    /** Beyond the ends stands nothing, as behind a semicolon: half a statement is looked at too, while somebody types it. */
    Kind kind(int index) {
        return isInside(index) ? tokens.get(index).kind() : Kind.SEMICOLON;
    }

    private boolean isInside(int index) {
        return index >= 0 && index < tokens.size();
    }

    String text(int index) {
        if (!isInside(index)) {
            return "";
        }
        Token token = tokens.get(index);
        return text.substring(token.start(), token.end());
    }

    /** What a token means as a word; {@link Word#NAME} for what is none. */
    Word word(int index) {
        return isInside(index) ? tokens.get(index).word() : Word.NAME;
    }

    boolean is(int index, Word word) {
        return word(index) == word;
    }

    /** True for a sign of one char. */
    boolean is(int index, char sign) {
        if (!isInside(index)) {
            return false;
        }
        Token token = tokens.get(index);
        return token.end() - token.start() == 1 && text.charAt(token.start()) == sign;
    }

    /** The name of a bind parameter, without its colon. */
    String bind(int index) {
        Token token = tokens.get(index);
        return text.substring(token.start() + 1, token.end());
    }

    /** {@code in ( :name )} */
    boolean isListBind(int index) {
        return kind(index) == Kind.BIND
                && kind(index - 1) == Kind.OPEN
                && kind(index + 1) == Kind.CLOSE
                && is(index - 2, Word.IN);
    }

    void appendTo(StringBuilder sql, int index) {
        Token token = tokens.get(index);
        sql.append(text, token.start(), token.end());
    }

    int depth(int index) {
        return tokens.get(index).depth();
    }

    int end(int index) {
        return tokens.get(index).end();
    }

    /** What stands between the starts and ends of two tokens, as it is written. */
    String text(int first, int last) {
        return text.substring(tokens.get(first).start(), tokens.get(last).end());
    }

    boolean isName(int index) {
        return kind(index) == Kind.WORD || kind(index) == Kind.QUOTED_NAME;
    }

    String name(int index) {
        String raw = text(index);
        return kind(index) == Kind.QUOTED_NAME
                ? raw.substring(1, raw.length() - 1).replace("``", "`")
                : raw;
    }
}
