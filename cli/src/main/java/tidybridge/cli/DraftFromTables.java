package tidybridge.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code ./tidy draft from tables waterways berth} */
@Command(
        name = "tables",
        aliases = "table",
        description = {
            "Make the text of a module from tables and views: collections with filters and sorting, one row, insert, PATCH and delete.",
            "It is printed for you to look at, with what could not be made; --write or --push keeps it."
        },
        footer = {
            "",
            "A module of that name which the folder has already keeps its text; the operations that it lacks are added.",
            "",
            "Examples:",
            "  ./tidy draft from tables waterways basin berth --public",
            "  ./tidy draft from tables waterways berth --only list,read --columns berth_no,length_m --needs moorings.read",
            "  ./tidy draft from tables waterways berth --parents --public",
            "  ./tidy draft from tables waterways --all --module register --write --folder ~/bridge"
        })
final class DraftFromTables extends DraftFromCommand {

    @Parameters(index = "0", paramLabel = "SOURCE", description = "The source that holds them.")
    @SuppressWarnings("NullAway.Init")
    private String source;

    @Parameters(index = "1..*", paramLabel = "TABLE", arity = "0..*", description = "Tables and views.")
    private List<String> tables = new ArrayList<>();

    @Option(names = "--all", description = "Every table and view of the source.")
    private boolean all;

    @Option(
            names = "--only",
            split = ",",
            paramLabel = "DEED",
            description = "Of list, read, add, change, remove; all that is possible unless given.")
    private List<String> deeds = new ArrayList<>();

    @Option(names = "--columns", split = ",", paramLabel = "COLUMN", description = "Of one table; all unless given.")
    private List<String> columns = new ArrayList<>();

    @Option(
            names = "--order",
            split = ",",
            paramLabel = "COLUMN",
            description = "Of one table or view: the columns that tell its rows apart.")
    private List<String> order = new ArrayList<>();

    @Option(names = "--parents", description = "Show the rows that a row refers to within it.")
    private boolean parents;

    @Override
    public Integer call() {
        if (all == !tables.isEmpty()) {
            throw CommandFailure.mistyped("Name the tables, or say --all.");
        }
        if (tables.size() != 1 && !(columns.isEmpty() && order.isEmpty())) {
            throw CommandFailure.mistyped("--columns and --order are for one table.");
        }
        List<String> names = all ? everything() : tables;
        if (names.isEmpty()) {
            throw CommandFailure.refused("The source '" + source + "' holds no table that its user may see.");
        }
        return make(
                source,
                all ? source : names.getFirst(),
                Map.of("tables", names.stream().map(this::table).toList()));
    }

    private List<String> everything() {
        return service()
                .desk("/desk/sources/" + Texts.encoded(source) + "/contents")
                .path("relations")
                .valueStream()
                .map(relation -> relation.path("name").asString())
                .toList();
    }

    private Map<String, Object> table(String name) {
        Map<String, Object> table = new LinkedHashMap<>();
        table.put("name", name);
        if (!deeds.isEmpty()) {
            table.put("deeds", deeds);
        }
        if (!columns.isEmpty()) {
            table.put("columns", columns);
        }
        if (!order.isEmpty()) {
            table.put("order", order);
        }
        if (parents) {
            table.put("parents", true);
        }
        return table;
    }
}
