package tidybridge.core.sql;

import java.util.List;

/**
 * A text cut into pieces.
 *
 * @param tokens in the order of the text
 * @param lineComments in the order of the text
 */
record Lexed(List<Token> tokens, List<Comment> lineComments) {

    /** A comment that runs to the end of its line; {@code depth} counts the parentheses open around it. */
    record Comment(int start, int contentStart, int end, int depth) {}

    Lexed {
        tokens = List.copyOf(tokens);
        lineComments = List.copyOf(lineComments);
    }
}
