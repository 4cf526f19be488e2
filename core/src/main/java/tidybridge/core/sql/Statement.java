package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.ToIntFunction;
import tidybridge.core.sql.Token.Kind;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/**
 * One scanned SQL statement. Immutable and thread-safe.
 *
 * <p>A line that ends in {@code -- when :name} applies only when that parameter is given. The part runs from the start of the
 * line to its end, and on to where the parentheses it opened close; a {@code WHERE}, {@code HAVING} or {@code ON} that starts the line stays.
 * To any other SQL client the marking is a comment, so the same text runs there with every part applied.
 */
public final class Statement {

    /** A query for what stands in {@code in ()} when a list is empty: it is true of no value, and {@code not in} of every one. */
    private static final String EMPTY_LIST = "select null from dual where false";

    private final SourceText source;
    private final StatementKind kind;
    private final List<Token> tokens;
    private final int[] partOf;
    private final List<Part> parts;
    private final List<WhenPart> whens;
    private final List<Bind> binds;
    private final SourceText.Places places;

    Statement(SourceText source, StatementKind kind, List<Token> tokens, List<Part> parts, SourceText.Places places) {
        this.source = source;
        this.places = places;
        this.kind = kind;
        this.tokens = List.copyOf(tokens);
        this.parts = List.copyOf(parts);
        this.whens = parts.stream().map(Part::when).toList();
        this.partOf = Part.innermost(parts, tokens);
        List<Bind> found = new ArrayList<>();
        for (int i = 0; i < partOf.length; i++) {
            Token token = tokens.get(i);
            if (token.kind() == Kind.BIND) {
                found.add(new Bind(text(token).substring(1), places.at(token.start()), partOf[i], inList(i)));
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
    public static Statement scan(SourceText source) throws BrokenText, SeveralStatements {
        return StatementScanner.scan(source);
    }

    public StatementKind kind() {
        return kind;
    }

    public SourceText source() {
        return source;
    }

    /** Every occurrence of a bind parameter, in the order of the text. */
    public List<Bind> binds() {
        return binds;
    }

    /** The conditional parts, in the order of the text. */
    public List<WhenPart> whens() {
        return whens;
    }

    /** What the statement tells about its tables and what its bind parameters meet. */
    public Outline outline() {
        return new OutlineReader(source.text(), tokens, partOf).read(kind);
    }

    /** Where a word stands outside all parentheses, compared without case; empty when it does not. */
    public Optional<Place> topLevel(String word) {
        return tokens.stream()
                .filter(token -> token.depth() == 0 && isWord(token, word))
                .map(token -> places.at(token.start()))
                .findFirst();
    }

    /**
     * Where some words and signs follow each other, compared without case; {@code :} stands for any bind parameter and {@code @} for
     * any variable of the session's own.
     */
    public Optional<Place> find(String... sequence) {
        for (int i = 0; i + sequence.length <= tokens.size(); i++) {
            int matched = 0;
            while (matched < sequence.length && matches(tokens.get(i + matched), sequence[matched])) {
                matched++;
            }
            if (matched == sequence.length) {
                return Optional.of(places.at(tokens.get(i).start()));
            }
        }
        return Optional.empty();
    }

    /** True when {@code is null} stands behind a bind parameter. */
    public boolean isNullTested(Bind bind) {
        for (int i = 0; i + 2 < tokens.size(); i++) {
            Token token = tokens.get(i);
            if (token.kind() == Kind.BIND
                    && isWord(tokens.get(i + 1), "is")
                    && isWord(tokens.get(i + 2), "null")
                    && places.at(token.start()).equals(bind.place())) {
                return true;
            }
        }
        return false;
    }

    /** Where a LIKE starts with a wildcard, so that no index can serve it; empty when none does. */
    public Optional<Place> unanchoredLike() {
        for (int i = 0; i + 1 < tokens.size(); i++) {
            if (isWord(tokens.get(i), "like")) {
                boolean joined = i + 3 < tokens.size() && isWord(tokens.get(i + 1), "concat");
                Token pattern = tokens.get(joined ? i + 3 : i + 1);
                if (pattern.kind() == Kind.LITERAL && text(pattern).matches("(?s)['\"][%_].*")) {
                    return Optional.of(places.at(tokens.get(i).start()));
                }
            }
        }
        return Optional.empty();
    }

    private boolean matches(Token token, String wanted) {
        return switch (token.kind()) {
            case BIND -> wanted.equals(":");
            case VARIABLE -> wanted.equals("@") && !text(token).startsWith("@@");
            case WORD, SYMBOL, OPEN, CLOSE -> text(token).equalsIgnoreCase(wanted);
            case QUOTED_NAME -> text(token).equalsIgnoreCase("`" + wanted + "`");
            case LITERAL, SEMICOLON -> false;
        };
    }

    /** The place of an offset in the text. */
    public Place at(int offset) {
        return places.at(offset);
    }

    /** True when the bind parameter applies only if all parameters that {@code given} accepts are given. */
    public boolean applies(Bind bind, Predicate<String> given) {
        return bind.when() < 0 || applies(bind.when(), given);
    }

    /** The text with the conditional parts that apply, and a question mark for each bind parameter. */
    public Rendered render(Predicate<String> given) {
        return render(given, name -> -1);
    }

    /**
     * The same with lists. An UPDATE of which no assignment applies sets a column to itself, so that it still tells whether its row is
     * there.
     *
     * @param items how many question marks the list of that name takes inside {@code in (...)}; -1 for what is no list
     */
    public Rendered render(Predicate<String> given, ToIntFunction<String> items) {
        boolean[] kept = kept(given);
        StringBuilder sql = new StringBuilder(source.text().length());
        List<Rendered.Slot> slots = new ArrayList<>();
        int set = kind == StatementKind.UPDATE ? emptySet(kept) : -1;
        if (set >= 0) {
            render(kept, 0, set + 1, items, sql, slots);
            sql.append(' ').append(unchanged(set)).append(' ');
            render(kept, set + 1, kept.length, items, sql, slots);
        } else {
            render(kept, 0, kept.length, items, sql, slots);
        }
        return new Rendered(sql.toString(), slots);
    }

    /** The table that this statement changes; empty when it changes none, several, or one of another schema. */
    public Optional<ChangeTarget> target() {
        return ChangeTarget.read(new TokenView(source.text(), tokens), kind);
    }

    /**
     * A query for the rows that this UPDATE or DELETE of a single table changes.
     *
     * @param select what stands between SELECT and FROM
     */
    public Rendered renderRows(
            ChangeTarget target, String select, Predicate<String> given, ToIntFunction<String> items) {
        boolean[] kept = kept(given);
        StringBuilder sql = new StringBuilder("select ").append(select).append(" from ");
        List<Rendered.Slot> slots = new ArrayList<>();
        render(kept, target.from(), target.to(), items, sql, slots);
        sql.append(' ');
        render(kept, target.rest(), target.end(), items, sql, slots);
        return new Rendered(sql.toString().strip(), slots);
    }

    /** The procedure that a CALL names; empty for every other statement. */
    public Optional<String> called() {
        if (kind != StatementKind.CALL || tokens.size() < 2) {
            return Optional.empty();
        }
        TokenView view = new TokenView(source.text(), tokens);
        int last = 1;
        while (last + 2 < tokens.size() && view.is(last + 1, ".")) {
            last += 2;
        }
        return view.isName(last) ? Optional.of(view.name(last)) : Optional.empty();
    }

    /** How many arguments a CALL has. */
    public int arguments() {
        int commas = 0;
        int inside = 0;
        for (Token token : tokens) {
            boolean within = token.depth() > 0;
            inside += within ? 1 : 0;
            commas += token.depth() == 1
                            && token.kind() == Kind.SYMBOL
                            && text(token).equals(",")
                    ? 1
                    : 0;
        }
        return inside == 0 ? 0 : commas + 1;
    }

    /** True for a change that hands rows back. */
    public boolean returnsRows() {
        return kind != StatementKind.QUERY && topLevel("returning").isPresent();
    }

    /** A query with the columns that RETURNING hands back; databases do not describe those of a change. */
    public Optional<String> returned() {
        TokenView view = new TokenView(source.text(), tokens);
        int at = view.clause("RETURNING", 0, tokens.size());
        return at == tokens.size()
                ? Optional.empty()
                : target().map(target -> {
                    StringBuilder sql = new StringBuilder("select ");
                    boolean[] all = new boolean[tokens.size()];
                    Arrays.fill(all, true);
                    render(all, at + 1, all.length, name -> -1, sql, new ArrayList<>());
                    return sql.append(" from `")
                            .append(target.table().replace("`", "``"))
                            .append('`')
                            .toString();
                });
    }

    /** True for a change that may take the place of rows that are there. */
    public boolean replacesRows() {
        return kind == StatementKind.REPLACE || find("on", "duplicate", "key").isPresent();
    }

    /** The SET of an UPDATE behind which nothing is left; -1 when something is. */
    private int emptySet(boolean[] kept) {
        for (int i = 0; i < kept.length; i++) {
            if (tokens.get(i).depth() == 0 && isWord(tokens.get(i), "set")) {
                int next = i + 1;
                while (next < kept.length && !kept[next]) {
                    next++;
                }
                boolean empty = next == kept.length
                        || isWord(tokens.get(next), "where")
                        || isWord(tokens.get(next), "order")
                        || isWord(tokens.get(next), "limit");
                return empty && next > i + 1 ? i : -1;
            }
        }
        return -1;
    }

    /** {@code note = note}, of the first column behind SET. */
    private String unchanged(int set) {
        int equals = set + 1;
        while (equals < tokens.size() && !text(tokens.get(equals)).equals("=")) {
            equals++;
        }
        String column = source.text()
                .substring(tokens.get(set + 1).start(), tokens.get(equals - 1).end());
        return column + " = " + column;
    }

    private void render(
            boolean[] kept,
            int from,
            int to,
            ToIntFunction<String> items,
            StringBuilder sql,
            List<Rendered.Slot> slots) {
        int end = -1;
        for (int i = from; i < to; i++) {
            if (!kept[i]) {
                continue;
            }
            Token token = tokens.get(i);
            if (end >= 0 && token.start() > end) {
                sql.append(' ');
            }
            end = token.end();
            if (token.kind() == Kind.BIND) {
                String name = text(token).substring(1);
                int size = inList(i) ? items.applyAsInt(name) : -1;
                slots(name, size, sql, slots);
            } else {
                sql.append(source.text(), token.start(), token.end());
            }
        }
    }

    private static void slots(String name, int size, StringBuilder sql, List<Rendered.Slot> slots) {
        if (size < 0) {
            sql.append('?');
            slots.add(new Rendered.Slot(name, -1));
        } else if (size == 0) {
            sql.append(EMPTY_LIST);
        }
        for (int item = 0; item < size; item++) {
            sql.append(item == 0 ? "?" : ", ?");
            slots.add(new Rendered.Slot(name, item));
        }
    }

    /** {@code in ( :name )} */
    private boolean inList(int index) {
        return index >= 2
                && index + 1 < tokens.size()
                && tokens.get(index - 1).kind() == Kind.OPEN
                && tokens.get(index + 1).kind() == Kind.CLOSE
                && isWord(tokens.get(index - 2), "in");
    }

    private boolean[] kept(Predicate<String> given) {
        boolean[] applying = new boolean[parts.size()];
        for (int i = 0; i < applying.length; i++) {
            applying[i] = applies(i, given);
        }
        boolean[] kept = new boolean[tokens.size()];
        for (int i = 0; i < kept.length; i++) {
            kept[i] = partOf[i] < 0 || applying[partOf[i]];
        }
        return new Kept(source.text(), tokens, kept).mended();
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

    private boolean isWord(Token token, String word) {
        return token.kind() == Kind.WORD && word.equalsIgnoreCase(text(token));
    }

    private String text(Token token) {
        return source.text().substring(token.start(), token.end());
    }
}
