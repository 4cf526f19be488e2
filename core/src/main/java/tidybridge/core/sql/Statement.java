package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;
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

    private final SourceText source;
    private final StatementKind kind;
    private final List<Token> tokens;
    private final int[] partOf;
    private final List<Part> parts;
    private final List<WhenPart> whens;
    private final List<Bind> binds;

    Statement(SourceText source, StatementKind kind, List<Token> tokens, List<Part> parts) {
        this.source = source;
        this.kind = kind;
        this.tokens = List.copyOf(tokens);
        this.parts = List.copyOf(parts);
        this.whens = parts.stream().map(Part::when).toList();
        this.partOf = new int[tokens.size()];
        List<Bind> found = new ArrayList<>();
        for (int i = 0; i < partOf.length; i++) {
            Token token = tokens.get(i);
            partOf[i] = Part.innermost(parts, token);
            if (token.kind() == Token.Kind.BIND) {
                found.add(new Bind(text(token).substring(1), source.at(token.start()), partOf[i]));
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

    /** Where a word stands outside all parentheses, compared without case; empty when it does not. */
    public Optional<Place> topLevel(String word) {
        return tokens.stream()
                .filter(token -> token.depth() == 0 && isWord(token, word))
                .map(token -> source.at(token.start()))
                .findFirst();
    }

    /** True when the bind parameter applies only if all parameters that {@code given} accepts are given. */
    public boolean applies(Bind bind, Predicate<String> given) {
        return bind.when() < 0 || applies(bind.when(), given);
    }

    /** The text with the conditional parts that apply, and a question mark for each bind parameter. */
    public Rendered render(Predicate<String> given) {
        boolean[] kept = kept(given);
        StringBuilder sql = new StringBuilder(source.text().length());
        List<String> names = new ArrayList<>();
        int end = -1;
        for (int i = 0; i < kept.length; i++) {
            if (!kept[i]) {
                continue;
            }
            Token token = tokens.get(i);
            if (end >= 0 && token.start() > end) {
                sql.append(' ');
            }
            end = token.end();
            if (token.kind() == Token.Kind.BIND) {
                sql.append('?');
                names.add(text(token).substring(1));
            } else {
                sql.append(source.text(), token.start(), token.end());
            }
        }
        return new Rendered(sql.toString(), names);
    }

    private boolean[] kept(Predicate<String> given) {
        boolean[] kept = new boolean[tokens.size()];
        for (int i = 0; i < kept.length; i++) {
            kept[i] = partOf[i] < 0 || applies(partOf[i], given);
        }
        for (int i = 0; i < kept.length; i++) {
            if (kept[i] && opensConditions(tokens.get(i)) && i + 1 < kept.length && !kept[i + 1]) {
                mend(kept, i);
            }
        }
        return kept;
    }

    /** After a vanished first condition: the next one loses its AND or OR, and without a next one the clause goes. */
    private void mend(boolean[] kept, int clause) {
        int next = clause + 1;
        while (next < kept.length && !kept[next]) {
            next++;
        }
        if (next < kept.length && (isWord(tokens.get(next), "and") || isWord(tokens.get(next), "or"))) {
            kept[next] = false;
        } else if (next == kept.length || endsConditions(tokens.get(next))) {
            kept[clause] = false;
        }
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

    private boolean opensConditions(Token token) {
        return StatementScanner.opensConditions(source, token);
    }

    private boolean endsConditions(Token token) {
        return token.kind() == Token.Kind.CLOSE
                || token.kind() == Token.Kind.SEMICOLON
                || Keywords.END_CONDITIONS.contains(text(token).toUpperCase(Locale.ROOT));
    }

    private boolean isWord(Token token, String word) {
        return token.kind() == Token.Kind.WORD && word.equalsIgnoreCase(text(token));
    }

    private String text(Token token) {
        return source.text().substring(token.start(), token.end());
    }
}
