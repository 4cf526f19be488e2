package tidybridge.cli;

import java.io.PrintWriter;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** What every command has: its help, and where it prints. */
@Command(mixinStandardHelpOptions = true)
abstract class TidyCommand implements Callable<Integer> {

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
