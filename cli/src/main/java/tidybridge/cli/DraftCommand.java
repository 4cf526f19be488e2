package tidybridge.cli;

import picocli.CommandLine.Command;

/** {@code ./tidy draft from tables waterways berth} */
@Command(
        name = "draft",
        description = "Begin a module's text from what there is.",
        subcommands = DraftCommand.FromCommand.class,
        footer = {"", "Example:", "  ./tidy draft from tables waterways basin berth --public"})
final class DraftCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    /** {@code ./tidy draft from tables} */
    @Command(
            name = "from",
            description = "What the text is made from.",
            subcommands = {
                DraftFromTables.class,
                DraftFromRoutines.class,
                DraftFromStatement.class,
                DraftFromDocument.class,
                DraftFromSample.class,
                DraftFromSheet.class
            },
            footer = {"", "Example:", "  ./tidy draft from tables waterways berth"})
    static final class FromCommand extends TidyCommand {

        @Override
        public Integer call() {
            printUsage();
            return 0;
        }
    }
}
