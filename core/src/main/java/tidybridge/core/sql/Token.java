package tidybridge.core.sql;

/**
 * A piece of a statement that means something to the server; white space and plain comments are no tokens.
 *
 * @param word what a {@link Kind#WORD} means; {@link Word#NAME} for every other token
 * @param start offset of the first char
 * @param end offset behind the last char
 * @param depth how many parentheses are open around it; an opening and its closing one count as outside
 */
record Token(Kind kind, Word word, int start, int end, int depth) {

    enum Kind {
        WORD,
        LITERAL,
        QUOTED_NAME,
        VARIABLE,
        BIND,
        OPEN,
        CLOSE,
        SEMICOLON,
        SYMBOL
    }
}
