package tidybridge.core.text;

import java.util.Arrays;

/**
 * The text of one file. Offsets count chars; line and column are worked out only when a place is asked for.
 *
 * @param file the path shown in places
 * @param text the whole content
 */
public record SourceText(String file, String text) {

    private static final int WINDOW = 80;

    /** The place of the char at {@code offset}; an offset past the end is the end. */
    public Place at(int offset) {
        int line = 1;
        int lineStart = 0;
        int end = Math.min(offset, text.length());
        for (int i = 0; i < end; i++) {
            if (text.charAt(i) == '\n') {
                line++;
                lineStart = i + 1;
            }
        }
        return new Place(file, line, end - lineStart + 1);
    }

    /** Finds many places in one text, each in logarithmic time. */
    public Places places() {
        return new Places(this);
    }

    /** The starts of a text's lines. Immutable. */
    public static final class Places {
        private final SourceText source;
        private final int[] lineStarts;

        private Places(SourceText source) {
            this.source = source;
            String text = source.text;
            int lines = 1;
            for (int i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) {
                lines++;
            }
            lineStarts = new int[lines];
            int line = 1;
            for (int i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) {
                lineStarts[line++] = i + 1;
            }
        }

        /** The place of the char at {@code offset}; an offset past the end is the end. */
        public Place at(int offset) {
            int end = Math.min(offset, source.text.length());
            int found = Arrays.binarySearch(lineStarts, end);
            int line = found >= 0 ? found : -found - 2;
            return new Place(source.file, line + 1, end - lineStarts[line] + 1);
        }
    }

    /** The line that holds {@code place}, cut to 80 chars around it, with the spot marked on a second line. */
    public String window(Place place) {
        if (place.line() == 0) {
            return "";
        }
        int start = 0;
        for (int line = 1; line < place.line(); line++) {
            int next = text.indexOf('\n', start);
            if (next < 0) {
                return "";
            }
            start = next + 1;
        }
        int end = text.indexOf('\n', start);
        String line = text.substring(start, end < 0 ? text.length() : end)
                .replace('\t', ' ')
                .stripTrailing();
        int column = Math.min(place.column() - 1, line.length());
        int from = Math.max(0, Math.min(column - WINDOW / 2, line.length() - WINDOW));
        int to = Math.min(line.length(), from + WINDOW);
        return line.substring(from, to) + "\n" + " ".repeat(column - from) + "^";
    }
}
