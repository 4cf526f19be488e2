package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** {@code ./tidy draft from routines waterways toll_due} */
@Command(
        name = "routines",
        aliases = "routine",
        description = {
            "Make the text of a module that calls procedures and functions: what goes in becomes parameters, what comes out the answer.",
            "It is printed for you to look at; --write or --push keeps it."
        },
        footer = {
            "",
            "What reads data by its own declaration is called under get, everything else under post.",
            "",
            "Example:",
            "  ./tidy draft from routines waterways toll_due book_berth --needs moorings.book"
        })
final class DraftFromRoutines extends DraftFromCommand {

    @Parameters(index = "0", paramLabel = "SOURCE", description = "The source that holds them.")
    @SuppressWarnings("NullAway.Init")
    private String source;

    @Parameters(index = "1..*", paramLabel = "ROUTINE", arity = "1..*", description = "Procedures and functions.")
    private List<String> routines = new ArrayList<>();

    @Override
    public Integer call() {
        return make(source, routines.getFirst(), Map.of("routines", routines));
    }
}
