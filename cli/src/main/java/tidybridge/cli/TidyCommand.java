package tidybridge.cli;

import java.io.PrintWriter;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** What every command has: its help, and where it prints. */
@Command
abstract class TidyCommand implements Callable<Integer> {

    // the standard options of the library hold '--version' too, and give way as a whole to a command that has one of
    // its own
    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "Show this help message and exit.")
    private boolean help;

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    final PrintWriter out() {
        return spec.commandLine().getOut();
    }

    final PrintWriter err() {
        return spec.commandLine().getErr();
    }

    /** Shows how the command is used. */
    final void printUsage() {
        spec.commandLine().usage(out());
    }
}
