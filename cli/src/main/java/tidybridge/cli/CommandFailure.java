package tidybridge.cli;

/** Ends a command with one sentence on standard error and an exit code. */
final class CommandFailure extends RuntimeException {

    private final int exitCode;

    private CommandFailure(String sentence, int exitCode) {
        super(sentence, null, false, false);
        this.exitCode = exitCode;
    }

    /** What was asked for cannot be done. */
    static CommandFailure refused(String sentence) {
        return new CommandFailure(sentence, 1);
    }

    /** The command makes no sense as typed. */
    static CommandFailure mistyped(String sentence) {
        return new CommandFailure(sentence, 2);
    }

    /** The service does not answer. */
    static CommandFailure unreachable(String sentence) {
        return new CommandFailure(sentence, 3);
    }

    int exitCode() {
        return exitCode;
    }
}
