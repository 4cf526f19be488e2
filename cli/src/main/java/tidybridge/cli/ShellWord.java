package tidybridge.cli;

/** Words of a command that is printed to be typed again. */
final class ShellWord {

    private ShellWord() {}

    /** The text as one word of a POSIX shell; what a shell would take apart is quoted. */
    static String of(String text) {
        return text.matches("[A-Za-z0-9_=.:/@+-]+") ? text : "'" + text.replace("'", "'\\''") + "'";
    }
}
