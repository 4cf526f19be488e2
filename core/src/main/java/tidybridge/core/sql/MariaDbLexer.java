package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.List;
import tidybridge.core.sql.Token.Kind;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;

/**
 * Cuts MariaDB's SQL into tokens in one pass over the text. Knows its quotes with doubling and backslash, its three kinds of
 * comment, executable comments (whose content counts) and hints (kept whole).
 */
final class MariaDbLexer {

    /** Deeper than anybody writes, and shallow enough to be read by recursion. */
    private static final int DEEPEST = 200;

    private final SourceText source;
    private final String text;
    private final int length;
    private final List<Token> tokens = new ArrayList<>();
    private final List<Lexed.Comment> lineComments = new ArrayList<>();
    private final IntStack open = new IntStack();
    private int executable = -1;
    private int at;

    MariaDbLexer(SourceText source) {
        this.source = source;
        this.text = source.text();
        this.length = text.length();
    }

    Lexed scan() throws BrokenText {
        while (at < length) {
            next();
        }
        if (executable >= 0) {
            throw broken(executable, "the executable comment opened here is never closed");
        }
        if (!open.isEmpty()) {
            throw broken(open.pop(), "the parenthesis opened here is never closed");
        }
        return new Lexed(tokens, lineComments);
    }

    private void next() throws BrokenText {
        char c = text.charAt(at);
        switch (c) {
            case ' ', '\t', '\n', '\r', '\f', '\u00a0', '\ufeff' -> at++;
            case '\'' -> quoted(c, Kind.LITERAL, "text");
            case '"' -> quoted(c, Kind.LITERAL, "quoted text");
            case '`' -> quoted(c, Kind.QUOTED_NAME, "quoted name");
            case '#' -> lineComment(1);
            case '(' -> open();
            case ')' -> close();
            case ';' -> add(Kind.SEMICOLON, 1);
            case ':' -> colon();
            case '@' -> variable();
            case '-' -> dash();
            case '/' -> slash();
            case '*' -> star();
            default -> wordOrSymbol(c);
        }
    }

    private void add(Kind kind, int size) {
        Word word = kind == Kind.WORD ? Word.of(text, at, at + size) : Word.NAME;
        tokens.add(new Token(kind, word, at, at + size, open.size()));
        at += size;
    }

    private void open() throws BrokenText {
        if (open.size() == DEEPEST) {
            throw broken(at, "parentheses nest deeper than " + DEEPEST + " levels here");
        }
        add(Kind.OPEN, 1);
        open.push(at - 1);
    }

    private void close() throws BrokenText {
        if (open.isEmpty()) {
            throw broken(at, "this parenthesis closes nothing");
        }
        open.pop();
        add(Kind.CLOSE, 1);
    }

    /** {@code 'it''s'}, {@code 'it\'s'}; a quoted name knows doubling only. */
    private void quoted(char quote, Kind kind, String what) throws BrokenText {
        int end = at + 1;
        while (end < length) {
            char c = text.charAt(end);
            if (c == '\\' && kind == Kind.LITERAL) {
                end += 2;
            } else if (c != quote) {
                end++;
            } else if (end + 1 < length && text.charAt(end + 1) == quote) {
                end += 2;
            } else {
                add(kind, end + 1 - at);
                return;
            }
        }
        throw broken(at, "the " + what + " opened here is never closed");
    }

    /** A bind parameter, {@code :name} or {@code :step.field}, an assignment, or a lone colon such as a label's. */
    private void colon() {
        if (at + 1 < length && isNameStart(text.charAt(at + 1)) && !followsName()) {
            int end = nameEnd(at + 1);
            boolean ofStep = end + 1 < length && text.charAt(end) == '.' && isNameStart(text.charAt(end + 1));
            add(Kind.BIND, (ofStep ? nameEnd(end + 1) : end) - at);
        } else if (at + 1 < length && text.charAt(at + 1) == '=') {
            add(Kind.SYMBOL, 2);
        } else {
            add(Kind.SYMBOL, 1);
        }
    }

    /** {@code label:begin} is a label, not a bind parameter; so is anything after a second colon. */
    private boolean followsName() {
        return at > 0 && (isNamePart(text.charAt(at - 1)) || text.charAt(at - 1) == ':');
    }

    private void variable() throws BrokenText {
        int start = at + 1;
        if (start < length && text.charAt(start) == '@') {
            start++;
        }
        if (start < length && (text.charAt(start) == '`' || text.charAt(start) == '\'' || text.charAt(start) == '"')) {
            add(Kind.VARIABLE, start - at);
            return;
        }
        int end = start;
        while (end < length && (isNamePart(text.charAt(end)) || text.charAt(end) == '.')) {
            end++;
        }
        add(Kind.VARIABLE, end - at);
    }

    /** {@code --} opens a comment only before white space or the end, as in MariaDB; otherwise it is two minus signs. */
    private void dash() {
        boolean second = at + 1 < length && text.charAt(at + 1) == '-';
        if (second && (at + 2 == length || text.charAt(at + 2) <= ' ')) {
            lineComment(2);
        } else {
            add(Kind.SYMBOL, 1);
        }
    }

    private void lineComment(int marker) {
        int end = text.indexOf('\n', at);
        end = end < 0 ? length : end;
        lineComments.add(new Lexed.Comment(at, Math.min(at + marker, end), end, open.size()));
        at = end;
    }

    private void slash() throws BrokenText {
        if (at + 1 >= length || text.charAt(at + 1) != '*') {
            add(Kind.SYMBOL, 1);
            return;
        }
        boolean bang = text.startsWith("/*!", at);
        if (bang || text.startsWith("/*M!", at)) {
            openExecutable(bang ? 3 : 4);
            return;
        }
        int end = text.indexOf("*/", at + 2);
        if (end < 0) {
            throw broken(at, "the comment opened here is never closed");
        }
        if (text.startsWith("/*+", at)) {
            add(Kind.SYMBOL, end + 2 - at);
        } else {
            at = end + 2;
        }
    }

    private void openExecutable(int marker) throws BrokenText {
        if (executable >= 0) {
            throw broken(at, "an executable comment cannot stand inside another");
        }
        executable = at;
        int end = at + marker;
        while (end < length && isDigit(text.charAt(end))) {
            end++;
        }
        add(Kind.SYMBOL, end - at);
    }

    private void star() {
        if (executable >= 0 && at + 1 < length && text.charAt(at + 1) == '/') {
            executable = -1;
            add(Kind.SYMBOL, 2);
        } else {
            add(Kind.SYMBOL, 1);
        }
    }

    private void wordOrSymbol(char c) {
        if (isNameStart(c)) {
            add(Kind.WORD, nameEnd(at) - at);
        } else if (isDigit(c)) {
            int end = at;
            while (end < length && (isNamePart(text.charAt(end)) || text.charAt(end) == '.')) {
                end++;
            }
            add(Kind.LITERAL, end - at);
        } else {
            add(Kind.SYMBOL, 1);
        }
    }

    private int nameEnd(int start) {
        int end = start;
        while (end < length && isNamePart(text.charAt(end))) {
            end++;
        }
        return end;
    }

    private BrokenText broken(int offset, String reason) {
        return new BrokenText(source.at(offset), reason);
    }

    static boolean isNameStart(char c) {
        return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' || c > '\u00a0' && c != '\ufeff';
    }

    private static boolean isNamePart(char c) {
        return isNameStart(c) || isDigit(c) || c == '$';
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }
}
