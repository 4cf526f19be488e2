package tidybridge.core.text;

/**
 * A place in a text file, as editors count: lines and columns from 1. Line 0 means the file as a whole.
 *
 * @param file the file's path inside its workspace or module, with forward slashes
 */
public record Place(String file, int line, int column) {

    /** The file as a whole, where no single spot is to blame. */
    public static Place of(String file) {
        return new Place(file, 0, 0);
    }

    /** True for a place further up in the same file. */
    public boolean isBefore(Place other) {
        return line < other.line || line == other.line && column < other.column;
    }

    /** {@code file:line:column}, the form that terminals and editors turn into a link. */
    @Override
    public String toString() {
        return line == 0 ? file : file + ":" + line + ":" + column;
    }
}
