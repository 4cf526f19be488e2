package tidybridge.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code ./tidy draft from statement waterways berths.sql} */
@Command(
        name = "statement",
        description = {
            "Make the text of a module from a statement you have: its parameters and their types are found, and a path is proposed.",
            "It is printed for you to look at; --write or --push keeps it."
        },
        footer = {
            "",
            "Examples:",
            "  ./tidy draft from statement waterways berths.sql --path /berths --module moorings-new",
            "  ./tidy source browse waterways berth --statement > berth.sql && ./tidy draft from statement waterways berth.sql --path '/berths/{id}'"
        })
final class DraftFromStatement extends DraftFromCommand {

    @Parameters(index = "0", paramLabel = "SOURCE", description = "The source it runs against.")
    @SuppressWarnings("NullAway.Init")
    private String source;

    @Parameters(index = "1", paramLabel = "FILE", description = "The file of the statement.")
    @SuppressWarnings("NullAway.Init")
    private Path file;

    @Option(
            names = "--path",
            paramLabel = "PATH",
            defaultValue = "",
            description = "Where it is called, such as /berths/{id}; proposed unless given.")
    @SuppressWarnings("NullAway.Init")
    private String path;

    @Override
    public Integer call() {
        String first = file.getFileName().toString().replaceFirst("\\.sql$", "");
        return make(source, first, Map.of("statement", Map.of("sql", sql(), "path", path)));
    }

    private String sql() {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + file + " cannot be read.");
        }
    }
}
