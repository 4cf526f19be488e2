package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Token.Kind;

/** A statement's tokens with the questions one asks of them while reading: what stands where, and where a clause ends. */
final class TokenView {

    private static final Set<String> CLAUSES = Set.of(
            "FROM",
            "WHERE",
            "GROUP",
            "HAVING",
            "WINDOW",
            "ORDER",
            "LIMIT",
            "OFFSET",
            "FETCH",
            "FOR",
            "LOCK",
            "INTO",
            "UNION",
            "EXCEPT",
            "INTERSECT",
            "PROCEDURE",
            "RETURNING");

    private final String text;
    private final List<Token> tokens;
    private final int[] closes;

    TokenView(String text, List<Token> tokens) {
        this.text = text;
        this.tokens = tokens;
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
    int clause(String word, int from, int to) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN) {
                i = closes[i];
            } else if (is(i, word) && !after(i, ".")) {
                return i;
            }
        }
        return to;
    }

    int endOfClause(int from, int to) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN) {
                i = closes[i];
            } else if (kind(i) == Kind.WORD && CLAUSES.contains(word(i)) && !after(i, ".")) {
                return i;
            }
        }
        return to;
    }

    boolean after(int index, String symbol) {
        return index > 0 && is(index - 1, symbol);
    }

    /** {@code column}, {@code alias.column} or {@code schema.table.column}, and nothing else between two tokens. */
    @Nullable
    ColumnRef column(int from, int to) {
        if (to - from == 1 && isName(from) && !isLiteralWord(from)) {
            return new ColumnRef(null, name(from));
        }
        if (to - from == 3 && isName(from) && is(from + 1, ".") && isName(from + 2)) {
            return new ColumnRef(name(from), name(from + 2));
        }
        if (to - from == 5 && isName(from) && is(from + 1, ".") && is(from + 3, ".") && isName(from + 4)) {
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
            if (i == to || is(i, ",")) {
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
        return is(index, "NULL") || is(index, "TRUE") || is(index, "FALSE") || is(index, "DEFAULT");
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

    String word(int index) {
        return text(index).toUpperCase(Locale.ROOT);
    }

    boolean is(int index, String word) {
        if (!isInside(index)) {
            return false;
        }
        Token token = tokens.get(index);
        return token.end() - token.start() == word.length()
                && token.kind() != Kind.QUOTED_NAME
                && text.regionMatches(true, token.start(), word, 0, word.length());
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
