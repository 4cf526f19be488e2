package tidybridge.core.sql;

import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;

/**
 * What the body of a stored routine tells of itself, as far as it can be told from its words: what it calls or prepares is not followed.
 *
 * @param returnsRows true when a query in it hands its rows to whoever called
 * @param endsTransaction true when it commits, rolls back, begins a transaction or changes the schema
 */
public record RoutineText(boolean returnsRows, boolean endsTransaction) {

    private static final Set<Word> BEFORE_STATEMENT =
            EnumSet.of(Word.BEGIN, Word.THEN, Word.ELSE, Word.DO, Word.LOOP, Word.REPEAT, Word.ATOMIC);

    private static final Set<Word> ENDING = EnumSet.of(
            Word.ALTER,
            Word.COMMIT,
            Word.CREATE,
            Word.DROP,
            Word.GRANT,
            Word.LOCK,
            Word.RENAME,
            Word.REVOKE,
            Word.ROLLBACK,
            Word.START,
            Word.TRUNCATE,
            Word.UNLOCK);

    /**
     * Reads a body.
     *
     * @return empty for a text that cannot be read
     */
    public static Optional<RoutineText> read(String body, Dialect dialect) {
        try {
            SourceText source = new SourceText("routine", body);
            return Optional.of(read(new TokenView(body, dialect.cut(source).tokens())));
        } catch (BrokenText e) {
            return Optional.empty();
        }
    }

    private static RoutineText read(TokenView view) {
        boolean returns = false;
        boolean ends = false;
        for (int i = 0; i < view.size(); i++) {
            if (startsStatement(view, i)) {
                returns |= isQuery(view, i) && !hasInto(view, i);
                ends |= ENDING.contains(view.word(i)) && !keeps(view, i);
            } else {
                // behind the condition of a handler a statement stands without a sign
                ends |= view.is(i, Word.COMMIT) || view.is(i, Word.ROLLBACK) && !keeps(view, i);
            }
        }
        return new RoutineText(returns, ends);
    }

    private static boolean startsStatement(TokenView view, int index) {
        return view.depth(index) == 0
                && (index == 0
                        || view.kind(index - 1) == Token.Kind.SEMICOLON
                        || BEFORE_STATEMENT.contains(view.word(index - 1)));
    }

    private static boolean isQuery(TokenView view, int index) {
        return view.is(index, Word.SELECT) || view.is(index, Word.WITH) || view.is(index, Word.VALUES);
    }

    private static boolean hasInto(TokenView view, int from) {
        for (int i = from; i < view.size() && view.kind(i) != Token.Kind.SEMICOLON; i++) {
            if (view.is(i, Word.INTO)) {
                return true;
            }
        }
        return false;
    }

    /** {@code rollback to savepoint} and what is temporary leave the transaction as it is. */
    private static boolean keeps(TokenView view, int index) {
        for (int i = index + 1; i <= index + 4 && view.kind(i) != Token.Kind.SEMICOLON; i++) {
            String text = view.text(i);
            if (text.equalsIgnoreCase("to") || text.equalsIgnoreCase("temporary")) {
                return true;
            }
        }
        return false;
    }
}
