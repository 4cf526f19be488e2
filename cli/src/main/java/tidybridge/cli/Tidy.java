package tidybridge.cli;

import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.ParameterException;

/** The command line's root, and its entry. */
@Command(
        name = "./tidy",
        version = "Tidy Bridge " + Tidy.VERSION,
        description = "Answers REST calls with SQL files.",
        subcommands = {
            CheckCommand.class,
            ExplainCommand.class,
            ProposeCommand.class,
            TryCommand.class,
            RehearseCommand.class,
            PublishCommand.class,
            ModulesCommand.class,
            CallCommand.class,
            SourceCommand.class,
            ReferenceCommand.class,
            ConsoleCommand.class
        },
        footerHeading = "%nOf this checkout:%n",
        footer = {
            "  demo       Start the demo: database, service and modules (--background, --fresh, --workspace)",
            "  serve      Start the service alone, with your own workspace and record store",
            "  stop       Stop a demo that runs in the background",
            "  build      Build everything",
            "  test       Build everything and run all tests",
            "  bench      Measure against a hand-written peer and plain JDBC",
            "",
            "Example:",
            "  ./tidy call GET moorings/v1/berths from=2031-05-01 until=2031-05-04"
        })
public final class Tidy extends TidyCommand {

    static final String VERSION = "0.1.0";

    public static void main(String[] args) {
        PrintWriter out = new PrintWriter(System.out, false, StandardCharsets.UTF_8);
        PrintWriter err = new PrintWriter(System.err, true, StandardCharsets.UTF_8);
        int code = run(args, out, err);
        out.flush();
        err.flush();
        System.exit(code);
    }

    /**
     * Runs one command.
     *
     * @return 0 when it did its work; 1 when what was asked is refused or has errors; 2 when the command was mistyped; 3 when the
     *     service cannot be reached
     */
    public static int run(String[] args, PrintWriter out, PrintWriter err) {
        CommandLine line = new CommandLine(new Tidy())
                .setOut(out)
                .setErr(err)
                .setCaseInsensitiveEnumValuesAllowed(true)
                .setParameterExceptionHandler(Tidy::mistyped)
                .setExecutionExceptionHandler(Tidy::failed);
        return line.execute(args);
    }

    private static int mistyped(ParameterException e, String[] args) {
        CommandLine line = e.getCommandLine();
        String problem = String.valueOf(e.getMessage()).replaceAll("\\s*\\R\\s*", " ");
        line.getErr()
                .println("tidy: " + problem + (problem.endsWith(".") ? "" : ".") + " Type '"
                        + line.getCommandSpec().qualifiedName() + " --help' for an example.");
        return 2;
    }

    private static int failed(Exception e, CommandLine line, CommandLine.ParseResult parsed) {
        int code = e instanceof CommandFailure failure ? failure.exitCode() : 1;
        String message =
                e instanceof CommandFailure ? e.getMessage() : e.getClass().getSimpleName() + ": " + e.getMessage();
        line.getErr().println("tidy: " + message);
        return code;
    }

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }
}
