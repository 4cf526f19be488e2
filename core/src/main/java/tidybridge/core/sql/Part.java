package tidybridge.core.sql;

import java.util.List;

/**
 * The stretch of text a {@link WhenPart} covers.
 *
 * @param parent the part around this one as an index, -1 for none
 */
record Part(WhenPart when, int start, int end, int parent) {

    boolean covers(int offset) {
        return offset >= start && offset < end;
    }

    /** The smallest part around a token as an index, -1 for none; parts come in the order of their markings. */
    static int innermost(List<Part> parts, Token token) {
        int found = -1;
        for (int i = 0; i < parts.size(); i++) {
            Part part = parts.get(i);
            if (part.covers(token.start()) && (found < 0 || part.end - part.start <= size(parts.get(found)))) {
                found = i;
            }
        }
        return found;
    }

    private static int size(Part part) {
        return part.end - part.start;
    }
}
