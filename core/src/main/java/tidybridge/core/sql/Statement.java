package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import tidybridge.core.sql.Token.Kind;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/**
 * One scanned SQL statement, and what can be asked of its text. {@link Renderer} writes it as the database gets it. Immutable and
 * thread-safe.
 *
 * <p>A line that ends in {@code -- when :name} applies only when that parameter is given. The part runs from the start of the
 * line to its end, and on to where the parentheses it opened close; a {@code WHERE}, {@code HAVING} or {@code ON} that starts the line stays.
 * To any other SQL client the marking is a comment, so the same text runs there with every part applied.
 */
public final class Statement {

    private static final Set<Word> OPERATORS =
            EnumSet.of(Word.AND, Word.OR, Word.XOR, Word.NOT, Word.IS, Word.IN, Word.LIKE, Word.BETWEEN);

    /** Words of a query that say something of its rows together, or behind which no condition can stand. */
    private static final Set<Word> WHOLE_RESULT = EnumSet.of(
            Word.GROUP,
            Word.HAVING,
            Word.WINDOW,
            Word.LIMIT,
            Word.OFFSET,
            Word.FETCH,
            Word.FOR,
            Word.INTO,
            Word.UNION,
            Word.EXCEPT,
            Word.INTERSECT,
            Word.PROCEDURE,
            Word.WITH);

    private final SourceText source;
    private final Dialect dialect;
    private final StatementKind kind;
    private final TokenView view;
    private final int[] partOf;
    private final List<Part> parts;
    private final List<WhenPart> whens;
    private final List<Bind> binds;
    private final SourceText.Places places;

    /**
     * Holds what was scanned.
     *
     * @param partOf for each token the innermost part around it, -1 for none
     */
    Statement(SourceText source, Dialect dialect, StatementKind kind, TokenView view, List<Part> parts, int[] partOf) {
        this.source = source;
        this.dialect = dialect;
        this.kind = kind;
        this.view = view;
        this.partOf = partOf;
        this.parts = List.copyOf(parts);
        this.places = source.places();
        this.whens = parts.stream().map(Part::when).toList();
        List<Bind> found = new ArrayList<>();
        for (int i = 0; i < view.size(); i++) {
            if (view.kind(i) == Kind.BIND) {
                found.add(new Bind(view.bind(i), places.at(view.offset(i)), partOf[i], view.isListBind(i)));
            }
        }
        this.binds = List.copyOf(found);
    }

    /**
     * Scans a text that must hold exactly one statement; a trailing semicolon is allowed and dropped.
     *
     * @throws BrokenText for an unclosed quote, comment or parenthesis, a misplaced {@code -- when}, or an empty text
     * @throws SeveralStatements when a second statement follows
     */
    public static Statement scan(SourceText source, Dialect dialect) throws BrokenText, SeveralStatements {
        return StatementScanner.scan(source, dialect);
    }

    public StatementKind kind() {
        return kind;
    }

    public SourceText source() {
        return source;
    }

    public Dialect dialect() {
        return dialect;
    }

    /** Every occurrence of a bind parameter, in the order of the text. */
    public List<Bind> binds() {
        return binds;
    }

    /** The conditional parts, in the order of the text. */
    public List<WhenPart> whens() {
        return whens;
    }

    TokenView view() {
        return view;
    }

    /** The tables and views that it reads or changes, in no order, as far as it can be told. */
    public List<Outline.TableUse> tables() {
        List<Outline.TableUse> tables = new ArrayList<>();
        outline().blocks().forEach(block -> tables.addAll(block.tables()));
        target().ifPresent(target -> tables.add(new Outline.TableUse(target.table(), null, target.table())));
        ChangeTarget.qualified(view, kind).ifPresent(tables::add);
        return tables;
    }

    /** What the statement tells about its tables and what its bind parameters meet. */
    public Outline outline() {
        return new OutlineReader(view, partOf).read(kind);
    }

    /** Every name and word in it, in lower case: whatever it uses of a database is among them. {@code *} stands for all columns. */
    public Set<String> names() {
        Set<String> names = new HashSet<>();
        for (int i = 0; i < view.size(); i++) {
            switch (view.kind(i)) {
                case WORD, QUOTED_NAME -> names.add(view.name(i).toLowerCase(Locale.ROOT));
                case SYMBOL -> {
                    if (view.is(i, '*') && meansColumns(i)) {
                        names.add("*");
                    }
                }
                case BIND, LITERAL, OPEN, CLOSE, SEMICOLON, VARIABLE -> {}
            }
        }
        return names;
    }

    /** True for the star of {@code select *} and {@code b.*}, which is no product and no {@code count(*)}. */
    private boolean meansColumns(int star) {
        String before = star == 0 ? "" : view.text(star - 1).toLowerCase(Locale.ROOT);
        return switch (before) {
            case "select", "distinct", "all", ",", "." -> true;
            default -> false;
        };
    }

    /** Where a word stands outside all parentheses; empty when it does not. */
    public Optional<Place> topLevel(Word word) {
        for (int i = 0; i < view.size(); i++) {
            if (view.depth(i) == 0 && view.is(i, word)) {
                return Optional.of(places.at(view.offset(i)));
            }
        }
        return Optional.empty();
    }

    /**
     * Where some words and signs follow each other, compared without case; {@code :} stands for any bind parameter and {@code @} for
     * any variable of the session's own.
     */
    public Optional<Place> find(String... sequence) {
        for (int i = 0; i + sequence.length <= view.size(); i++) {
            int matched = 0;
            while (matched < sequence.length && matches(i + matched, sequence[matched])) {
                matched++;
            }
            if (matched == sequence.length) {
                return Optional.of(places.at(view.offset(i)));
            }
        }
        return Optional.empty();
    }

    private boolean matches(int index, String wanted) {
        return switch (view.kind(index)) {
            case BIND -> wanted.equals(":");
            case VARIABLE -> wanted.equals("@") && !view.text(index).startsWith("@@");
            case WORD, SYMBOL, OPEN, CLOSE -> view.text(index).equalsIgnoreCase(wanted);
            case QUOTED_NAME -> view.name(index).equalsIgnoreCase(wanted);
            case LITERAL, SEMICOLON -> false;
        };
    }

    /** True when {@code is null} stands behind a bind parameter. */
    public boolean isNullTested(Bind bind) {
        for (int i = 0; i + 2 < view.size(); i++) {
            if (view.kind(i) == Kind.BIND
                    && view.is(i + 1, Word.IS)
                    && view.is(i + 2, Word.NULL)
                    && places.at(view.offset(i)).equals(bind.place())) {
                return true;
            }
        }
        return false;
    }

    /** Where a LIKE starts with a wildcard, so that no index can serve it; empty when none does. */
    public Optional<Place> unanchoredLike() {
        for (int i = 0; i + 1 < view.size(); i++) {
            if (view.is(i, Word.LIKE)) {
                int pattern = view.is(i + 1, Word.CONCAT) ? i + 3 : i + 1;
                if (view.kind(pattern) == Kind.LITERAL && view.text(pattern).matches("(?s)['\"][%_].*")) {
                    return Optional.of(places.at(view.offset(i)));
                }
            }
        }
        return Optional.empty();
    }

    /**
     * True for one query whose rows are those of its tables that its conditions leave, so that a condition on a column of theirs can stand
     * among its own: no groups, no windows, no limit, nothing put together with another query, no variables that count.
     */
    public boolean takesConditions() {
        if (kind != StatementKind.QUERY || view.clause(Word.FROM, 0, view.size()) == view.size()) {
            return false;
        }
        for (int i = 0; i < view.size(); i++) {
            if (view.kind(i) == Kind.VARIABLE
                    || view.is(i, Word.OVER)
                    || view.depth(i) == 0 && WHOLE_RESULT.contains(view.word(i)) && !view.after(i, '.')) {
                return false;
            }
        }
        Outline outline = outline();
        Outline.Block main = outline.main();
        return main != null && !outline.combined() && !main.aggregated();
    }

    /** The place of an offset in the text. */
    public Place at(int offset) {
        return places.at(offset);
    }

    /** True when the bind parameter applies only if all parameters that {@code given} accepts are given. */
    public boolean applies(Bind bind, Predicate<String> given) {
        return bind.when() < 0 || applies(bind.when(), given);
    }

    private boolean applies(int part, Predicate<String> given) {
        for (int p = part; p >= 0; p = parts.get(p).parent()) {
            for (String name : whens.get(p).names()) {
                if (!given.test(name)) {
                    return false;
                }
            }
        }
        return true;
    }

    /** For each token whether it stays when only some parameters are given, mended to a statement. */
    boolean[] staying(Predicate<String> given) {
        boolean[] applying = new boolean[parts.size()];
        for (int i = 0; i < applying.length; i++) {
            applying[i] = applies(i, given);
        }
        boolean[] staying = new boolean[view.size()];
        for (int i = 0; i < staying.length; i++) {
            staying[i] = partOf[i] < 0 || applying[partOf[i]];
        }
        return new Mending(view, staying).mended();
    }

    /** The table that this statement changes; empty when it changes none, several, or one of another schema. */
    public Optional<ChangeTarget> target() {
        return ChangeTarget.read(view, kind);
    }

    /** The procedure that a CALL names; empty for every other statement. */
    public Optional<String> called() {
        if (kind != StatementKind.CALL) {
            return Optional.empty();
        }
        int last = 1;
        while (last + 2 < view.size() && view.is(last + 1, '.')) {
            last += 2;
        }
        return view.isName(last) ? Optional.of(view.name(last)) : Optional.empty();
    }

    /** How many arguments a CALL has. */
    public int arguments() {
        int commas = 0;
        boolean any = false;
        for (int i = 0; i < view.size(); i++) {
            any |= view.depth(i) > 0;
            commas += view.depth(i) == 1 && view.is(i, ',') ? 1 : 0;
        }
        return any ? commas + 1 : 0;
    }

    /**
     * True for an UPDATE or DELETE that changes every row of its table when only some parameters are given: no WHERE is left, or one
     * that says nothing of any column, like {@code where 1 = 1}.
     */
    public boolean changesEveryRow(Predicate<String> given) {
        if (kind != StatementKind.UPDATE && kind != StatementKind.DELETE) {
            return false;
        }
        boolean[] staying = staying(given);
        int where = view.clause(Word.WHERE, 0, view.size());
        if (where == view.size() || !staying[where]) {
            return true;
        }
        int end = view.endOfClause(where + 1, view.size());
        for (int i = where + 1; i < end; i++) {
            if (staying[i] && view.isName(i) && !view.isLiteralWord(i) && !OPERATORS.contains(view.word(i))) {
                return false;
            }
        }
        return true;
    }

    /** True for a bind parameter whose value the statement writes, and does not compare. */
    public boolean writes(Bind bind) {
        return switch (kind) {
            case INSERT, REPLACE -> true;
            case UPDATE ->
                topLevel(Word.WHERE).map(where -> bind.place().isBefore(where)).orElse(true);
            case QUERY, DELETE, CALL, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN -> false;
        };
    }

    /** True for a change that hands rows back. */
    public boolean returnsRows() {
        return kind != StatementKind.QUERY && topLevel(Word.RETURNING).isPresent();
    }

    /** True for a change that may take the place of rows that are there. */
    public boolean replacesRows() {
        return kind == StatementKind.REPLACE || find("on", "duplicate", "key").isPresent();
    }
}
