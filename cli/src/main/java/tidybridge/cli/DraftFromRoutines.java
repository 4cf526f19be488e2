package tidybridge.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
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
            "Examples:",
            "  ./tidy draft from routines waterways toll_due book_berth --needs moorings.book",
            "  ./tidy draft from routines waterways book_berth --rehearse --value the_berth=3 --value the_departure=2031-05-04"
        })
final class DraftFromRoutines extends DraftFromCommand {

    @Parameters(index = "0", paramLabel = "SOURCE", description = "The source that holds them.")
    @SuppressWarnings("NullAway.Init")
    private String source;

    @Parameters(index = "1..*", paramLabel = "ROUTINE", arity = "1..*", description = "Procedures and functions.")
    private List<String> routines = new ArrayList<>();

    @Option(
            names = "--rehearse",
            description = "Run procedures once to see how many result sets they return; what they do is undone.")
    private boolean rehearse;

    @Option(
            names = "--value",
            paramLabel = "ARGUMENT=VALUE",
            description = "Of an argument, for --rehearse; its example unless given. May be repeated.")
    private Map<String, String> values = new LinkedHashMap<>();

    @Override
    public Integer call() {
        if (!values.isEmpty() && !rehearse) {
            throw CommandFailure.mistyped("--value is for --rehearse; say both.");
        }
        Map<String, Object> made = new LinkedHashMap<>();
        made.put("routines", routines);
        if (rehearse) {
            made.put("rehearse", true);
            made.put("values", values);
        }
        return make(source, routines.getFirst(), made);
    }
}
