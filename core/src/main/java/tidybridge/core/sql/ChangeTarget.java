package tidybridge.core.sql;

import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;

/**
 * The one table that a statement changes.
 *
 * @param from the index of the token where an UPDATE or DELETE names it
 * @param to the index behind its name and alias
 * @param rest where the conditions of an UPDATE or DELETE begin, as an index of a token
 * @param end the index behind them
 */
public record ChangeTarget(String table, int from, int to, int rest, int end) {

    private static final Set<Word> MODIFIERS = EnumSet.of(
            Word.LOW_PRIORITY, Word.HIGH_PRIORITY, Word.DELAYED, Word.QUICK, Word.IGNORE, Word.INTO, Word.FROM);
    private static final Set<Word> BEHIND = EnumSet.of(Word.SET, Word.WHERE, Word.ORDER, Word.LIMIT, Word.RETURNING);

    /** Reads a change of one table; empty for every other statement, and for a table of another schema. */
    static Optional<ChangeTarget> read(TokenView view, StatementKind kind) {
        int at = first(view);
        if (at >= view.size() || !view.isName(at) || at + 1 < view.size() && view.is(at + 1, '.')) {
            return Optional.empty();
        }
        return switch (kind) {
            case INSERT, REPLACE -> Optional.of(new ChangeTarget(view.name(at), at, at + 1, view.size(), view.size()));
            case UPDATE, DELETE -> rows(view, kind, at);
            case QUERY, CALL, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN -> Optional.empty();
        };
    }

    private static int first(TokenView view) {
        int at = 1;
        while (at < view.size() && MODIFIERS.contains(view.word(at))) {
            at++;
        }
        return at;
    }

    /** The table that a statement changes, where it says of which schema; empty for one that says no schema. */
    static Optional<Outline.TableUse> qualified(TokenView view, StatementKind kind) {
        int at = first(view);
        boolean changes = kind == StatementKind.INSERT
                || kind == StatementKind.REPLACE
                || kind == StatementKind.UPDATE
                || kind == StatementKind.DELETE;
        return changes && at + 2 < view.size() && view.isName(at) && view.is(at + 1, '.') && view.isName(at + 2)
                ? Optional.of(new Outline.TableUse(view.name(at + 2), view.name(at), view.name(at + 2)))
                : Optional.empty();
    }

    private static Optional<ChangeTarget> rows(TokenView view, StatementKind kind, int at) {
        int to = at + 1;
        if (to < view.size() && view.is(to, Word.AS)) {
            to++;
        }
        if (to < view.size() && view.isName(to) && !BEHIND.contains(view.word(to))) {
            to++;
        }
        boolean single = to == view.size() || BEHIND.contains(view.word(to));
        if (!single || kind == StatementKind.UPDATE && (to == view.size() || !view.is(to, Word.SET))) {
            return Optional.empty();
        }
        int end = view.clause(Word.RETURNING, to, view.size());
        int rest = view.clause(Word.WHERE, to, end);
        rest = rest < end ? rest : Math.min(view.clause(Word.ORDER, to, end), view.clause(Word.LIMIT, to, end));
        return Optional.of(new ChangeTarget(view.name(at), at, to, rest, end));
    }
}
