package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import tidybridge.core.sql.Lexed.Comment;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/** Puts a {@link Statement} together from tokens and {@code -- when} comments. */
final class StatementScanner {

    private static final String WHEN = "when";

    private static final Set<Word> STAY = EnumSet.of(Word.WHERE, Word.HAVING, Word.ON, Word.SET);

    private final SourceText source;
    private static final int MOST_BINDS = 2_000;

    private final Dialect dialect;
    private final List<Comment> comments;
    private final SourceText.Places places;
    private List<Token> tokens;

    private StatementScanner(SourceText source, Dialect dialect) throws BrokenText {
        Lexed lexed = dialect.cut(source);
        this.source = source;
        this.dialect = dialect;
        this.tokens = lexed.tokens();
        this.comments = lexed.lineComments();
        this.places = source.places();
    }

    static Statement scan(SourceText source, Dialect dialect) throws BrokenText, SeveralStatements {
        StatementScanner scanner = new StatementScanner(source, dialect);
        boolean block = scanner.dropSemicolons();
        if (scanner.tokens.isEmpty()) {
            throw new BrokenText(Place.of(source.file()), "the file holds no statement");
        }
        scanner.refuseMany();
        StatementKind kind = block ? StatementKind.SCRIPT : scanner.kind();
        List<Part> parts = scanner.parts();
        TokenView view = new TokenView(source.text(), scanner.tokens);
        return new Statement(source, dialect, kind, view, parts, Part.innermost(parts, scanner.tokens));
    }

    /** Each is looked at beside all others, so there is a bound that no statement written by hand comes near. */
    private void refuseMany() throws BrokenText {
        int binds = 0;
        for (Token token : tokens) {
            if (token.kind() == Token.Kind.BIND && ++binds > MOST_BINDS) {
                throw new BrokenText(
                        places.at(token.start()), "the statement has more than " + MOST_BINDS + " bind parameters");
            }
        }
    }

    /** Drops the semicolons behind the statement; true when it is a block, which keeps its own. */
    private boolean dropSemicolons() throws SeveralStatements {
        int first = 0;
        while (first < tokens.size() && tokens.get(first).kind() == Token.Kind.SEMICOLON) {
            first++;
        }
        tokens = tokens.subList(first, tokens.size());
        if (tokens.isEmpty()) {
            return false;
        }
        Bodies bodies = new Bodies(new TokenView(source.text(), tokens));
        boolean block = bodies.isBlock(0);
        int end = bodies.end(0);
        for (int i = end; i < tokens.size(); i++) {
            if (tokens.get(i).kind() != Token.Kind.SEMICOLON) {
                throw new SeveralStatements(places.at(tokens.get(i).start()));
            }
        }
        tokens = tokens.subList(0, end);
        return block;
    }

    /** The first word that names a kind outside all parentheses; a statement in parentheses is judged by its inside. */
    private StatementKind kind() {
        boolean inside = tokens.getFirst().kind() == Token.Kind.OPEN;
        boolean afterWith = tokens.getFirst().word() == Word.WITH;
        for (Token token : tokens) {
            if (token.kind() != Token.Kind.WORD || token.depth() > 0 && !inside) {
                continue;
            }
            StatementKind kind = token.word().begins();
            if (kind != null) {
                return kind;
            }
            if (!afterWith) {
                return StatementKind.UNKNOWN;
            }
        }
        return StatementKind.UNKNOWN;
    }

    private List<Part> parts() throws BrokenText {
        List<Part> parts = new ArrayList<>();
        for (Comment comment : comments) {
            String content = source.text()
                    .substring(comment.contentStart(), comment.end())
                    .strip();
            if (isMarking(content)) {
                WhenPart when = new WhenPart(names(content, comment), places.at(comment.start()));
                parts.add(part(when, comment, parts));
            }
        }
        return parts;
    }

    /** "when" with a bind parameter behind it; "when the basin is full" stays an ordinary comment. */
    private static boolean isMarking(String content) {
        return content.regionMatches(true, 0, WHEN, 0, WHEN.length())
                && content.substring(WHEN.length()).stripLeading().startsWith(":");
    }

    private List<String> names(String content, Comment comment) throws BrokenText {
        List<String> names = new ArrayList<>();
        String[] words = content.substring(WHEN.length()).strip().split("\\s+");
        for (int i = 0; i < words.length; i++) {
            boolean fits = i % 2 == 0
                    ? words[i].length() > 1 && words[i].charAt(0) == ':' && dialect.startsName(words[i].charAt(1))
                    : words[i].equalsIgnoreCase("and");
            if (!fits || i == words.length - 1 && i % 2 == 1) {
                throw new BrokenText(
                        places.at(comment.start()), "a marking reads '-- when :name' or '-- when :name and :other'");
            }
            if (i % 2 == 0) {
                names.add(words[i].substring(1));
            }
        }
        return names;
    }

    private Part part(WhenPart when, Comment comment, List<Part> before) throws BrokenText {
        int lineStart = source.text().lastIndexOf('\n', comment.start()) + 1;
        int first = firstToken(lineStart);
        if (first > 0 && tokens.get(first - 1).end() > lineStart) {
            throw new BrokenText(when.place(), "this line starts inside a quoted text, so it cannot be left out");
        }
        if (first == tokens.size() || tokens.get(first).start() > comment.start()) {
            throw new BrokenText(
                    when.place(), "this marking stands alone; put it at the end of the line it belongs to");
        }
        int depth = depthBehind(first - 1);
        if (lowestDepth(first, comment.start()) < depth) {
            throw new BrokenText(when.place(), "this line closes a parenthesis opened above, so it cannot be left out");
        }
        int start = stays(tokens.get(first)) ? tokens.get(first).end() : lineStart;
        int end = comment.depth() > depth ? closing(comment.start(), depth) : comment.start();
        return new Part(when, start, end, enclosing(before, start));
    }

    private int firstToken(int offset) {
        int low = 0;
        int high = tokens.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (tokens.get(middle).start() < offset) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }

    /** How many parentheses are open behind a token; none are before the first. */
    private int depthBehind(int index) {
        if (index < 0) {
            return 0;
        }
        Token token = tokens.get(index);
        return token.kind() == Token.Kind.OPEN ? token.depth() + 1 : token.depth();
    }

    private int lowestDepth(int first, int until) {
        int lowest = tokens.get(first).depth();
        for (int i = first; i < tokens.size() && tokens.get(i).start() < until; i++) {
            lowest = Math.min(lowest, tokens.get(i).depth());
        }
        return lowest;
    }

    /** The offset behind the parenthesis that brings the depth back. */
    private int closing(int from, int depth) {
        for (int i = firstToken(from); i < tokens.size(); i++) {
            Token token = tokens.get(i);
            if (token.kind() == Token.Kind.CLOSE && token.depth() == depth) {
                return token.end();
            }
        }
        return source.text().length();
    }

    private static int enclosing(List<Part> parts, int offset) {
        int i = parts.size() - 1;
        while (i >= 0 && parts.get(i).end() <= offset) {
            i = parts.get(i).parent();
        }
        return i;
    }

    /** What stays when the line it starts may be left out. */
    private static boolean stays(Token token) {
        return STAY.contains(token.word());
    }
}
