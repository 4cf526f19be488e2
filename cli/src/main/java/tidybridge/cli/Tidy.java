package tidybridge.cli;

import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.ParseResult;
import picocli.CommandLine.UnmatchedArgumentException;

/** The command line's root, and its entry. */
@Command(
        name = "./tidy",
        version = "Tidy Bridge " + Tidy.VERSION,
        description = "Answers REST calls with SQL files.",
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

    @Option(
            names = {"-V", "--version"},
            versionHelp = true,
            description = "Print version information and exit.")
    private boolean programVersion;

    /** In the order in which help lists them. */
    private static final Map<String, Supplier<TidyCommand>> COMMANDS = new LinkedHashMap<>();

    static {
        COMMANDS.put("check", CheckCommand::new);
        COMMANDS.put("explain", ExplainCommand::new);
        COMMANDS.put("propose", ProposeCommand::new);
        COMMANDS.put("try", TryCommand::new);
        COMMANDS.put("rehearse", RehearseCommand::new);
        COMMANDS.put("publish", PublishCommand::new);
        COMMANDS.put("compare", CompareCommand::new);
        COMMANDS.put("carry", CarryCommand::new);
        COMMANDS.put("history", HistoryCommand::new);
        COMMANDS.put("nodes", NodesCommand::new);
        COMMANDS.put("backup", BackupCommand::new);
        COMMANDS.put("watch", WatchCommand::new);
        COMMANDS.put("draft", DraftCommand::new);
        COMMANDS.put("format", FormatCommand::new);
        COMMANDS.put("schemas", SchemasCommand::new);
        COMMANDS.put("push", PushCommand::new);
        COMMANDS.put("pull", PullCommand::new);
        COMMANDS.put("drafts", DraftsCommand::new);
        COMMANDS.put("review", ReviewCommand::new);
        COMMANDS.put("revert", RevertCommand::new);
        COMMANDS.put("retire", RetireCommand::new);
        COMMANDS.put("drift", DriftCommand::new);
        COMMANDS.put("announce", AnnounceCommand::new);
        COMMANDS.put("modules", ModulesCommand::new);
        COMMANDS.put("call", CallCommand::new);
        COMMANDS.put("source", SourceCommand::new);
        COMMANDS.put("reference", ReferenceCommand::new);
        COMMANDS.put("tools", ToolsCommand::new);
        COMMANDS.put("console", ConsoleCommand::new);
        COMMANDS.put("sign-in", SignInCommand::new);
        COMMANDS.put("sign-out", SignOutCommand::new);
        COMMANDS.put("role", RoleCommand::new);
        COMMANDS.put("person", PersonCommand::new);
        COMMANDS.put("client", ClientCommand::new);
        COMMANDS.put("team", TeamCommand::new);
        COMMANDS.put("request", RequestCommand::new);
        COMMANDS.put("notices", NoticesCommand::new);
        COMMANDS.put("who-may", WhoMayCommand::new);
        COMMANDS.put("may", MayCommand::new);
        COMMANDS.put("why", WhyCommand::new);
        COMMANDS.put("audit", AuditCommand::new);
    }

    public static void main(String[] args) {
        System.exit(run(args, Surroundings.ofProcess()));
    }

    /** Runs one command as a process of its own would. */
    public static int run(String[] args, Surroundings around) {
        PrintWriter out = new PrintWriter(around.out(), false, StandardCharsets.UTF_8);
        PrintWriter err = new PrintWriter(around.err(), true, StandardCharsets.UTF_8);
        int code = around.around(() -> run(args, out, err));
        out.flush();
        err.flush();
        return code;
    }

    /**
     * Runs one command.
     *
     * @return 0 when it did its work; 1 when what was asked is refused or has errors; 2 when the command was mistyped; 3 when the
     *     service cannot be reached
     */
    public static int run(String[] args, PrintWriter out, PrintWriter err) {
        CommandLine root = new CommandLine(new Tidy());
        Collection<String> meant = meant(args);
        COMMANDS.forEach((name, command) -> {
            if (meant.contains(name)) {
                root.addSubcommand(name, command.get());
            }
        });
        CommandLine line = root.setOut(out)
                .setErr(err)
                .setCaseInsensitiveEnumValuesAllowed(true)
                .setExecutionStrategy(Tidy::executed)
                .setParameterExceptionHandler(Tidy::mistyped)
                .setExecutionExceptionHandler(Tidy::failed);
        return line.execute(args);
    }

    /** Reading a command's annotations takes longer than many a command, so only the ones that are meant are read: all of them for help. */
    private static Collection<String> meant(String[] args) {
        if (args.length == 0 || args[0].equals("--help") || args[0].equals("-h")) {
            return COMMANDS.keySet();
        }
        if (args[0].equals("--version") || args[0].equals("-V")) {
            return Set.of();
        }
        return COMMANDS.containsKey(args[0]) ? Set.of(args[0]) : COMMANDS.keySet();
    }

    /** A connection that is left open keeps the process for a third of a second at its end. */
    private static int executed(ParseResult parsed) {
        Object command = parsed.asCommandLineList().getLast().getCommand();
        try {
            return new CommandLine.RunLast().execute(parsed);
        } finally {
            if (command instanceof ServiceCommand speaking) {
                speaking.hangUp();
            }
        }
    }

    private static int mistyped(ParameterException e, String[] args) {
        CommandLine line = e.getCommandLine();
        String problem = e instanceof UnmatchedArgumentException unmatched
                ? unknown(line, unmatched.getUnmatched().getFirst())
                : String.valueOf(e.getMessage()).replaceAll("\\s*\\R\\s*", " ");
        line.getErr()
                .println("tidy: " + problem + (problem.endsWith(".") ? "" : ".") + " Type '"
                        + line.getCommandSpec().qualifiedName() + " --help' for an example.");
        return 2;
    }

    private static String unknown(CommandLine line, String word) {
        boolean takesFolder = line.getCommandSpec().findOption("--folder") != null;
        return takesFolder && !word.startsWith("-")
                ? "'" + word + "' is not understood here; a folder is given as --folder " + ShellWord.of(word)
                : "'" + word + "' is not understood here";
    }

    private static int failed(Exception e, CommandLine line, ParseResult parsed) {
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
