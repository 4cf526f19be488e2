package tidybridge.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.core.definition.Workspace;
import tools.jackson.databind.JsonNode;

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
            "  ./tidy draft from tables waterways --all --module register --write --folder ~/bridge"
        })
final class DraftFromTables extends ServiceCommand {

    private static final int THERE = 412;

    @Parameters(index = "0", paramLabel = "SOURCE", description = "The source that holds them.")
    @SuppressWarnings("NullAway.Init")
    private String source;

    @Parameters(index = "1..*", paramLabel = "TABLE", arity = "0..*", description = "Tables and views.")
    private List<String> tables = new ArrayList<>();

    @Option(names = "--all", description = "Every table and view of the source.")
    private boolean all;

    @Option(
            names = "--module",
            paramLabel = "NAME",
            description = "The module's name; that of the first table unless given.")
    private @Nullable String module;

    @Option(
            names = "--version",
            paramLabel = "VERSION",
            defaultValue = "1.0.0",
            description = "Its version; ${DEFAULT-VALUE} unless given.")
    @SuppressWarnings("NullAway.Init")
    private String version;

    @Option(names = "--title", paramLabel = "TEXT", description = "The heading of its reference.")
    private @Nullable String title;

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

    @ArgGroup
    private final Reads reads = new Reads();

    @Option(
            names = "--change-needs",
            paramLabel = "PRIVILEGE",
            description = "The privilege that changes need; that of reading unless given.")
    private @Nullable String changeNeeds;

    @ArgGroup
    private final Keeping keeping = new Keeping();

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Mixin
    private final JsonOption json = new JsonOption();

    /** Who may call it; nobody when neither is said. */
    private static final class Reads {
        @Option(names = "--public", description = "Everybody may call it.")
        private boolean everybody;

        @Option(names = "--needs", paramLabel = "PRIVILEGE", description = "The privilege that callers must hold.")
        private @Nullable String privilege;
    }

    private static final class Keeping {
        @Option(names = "--write", description = "Write it into the workspace.")
        private boolean write;

        @Option(names = "--push", description = "Begin a draft with it on the service.")
        private boolean push;
    }

    @Override
    public Integer call() {
        if (all == !tables.isEmpty()) {
            throw CommandFailure.mistyped("Name the tables, or say --all.");
        }
        if (tables.size() != 1 && !(columns.isEmpty() && order.isEmpty())) {
            throw CommandFailure.mistyped("--columns and --order are for one table.");
        }
        Map<String, Object> request = request();
        Optional<ModuleText> there = keeping.write ? existing() : Optional.empty();
        there.ifPresent(text -> request.put("text", Map.of("folder", text.folder(), "files", text.files())));
        JsonNode answer = posted("/desk/first-texts/tables", request);
        if (!json.print(answer, out())) {
            print(answer, !keeping.write && !keeping.push);
        }
        if (keeping.write) {
            write(answer);
        } else if (keeping.push) {
            push(answer);
        }
        return 0;
    }

    private Map<String, Object> request() {
        List<String> names = all ? everything() : tables;
        if (names.isEmpty()) {
            throw CommandFailure.refused("The source '" + source + "' holds no table that its user may see.");
        }
        Map<String, Object> request = new LinkedHashMap<>();
        request.put("source", source);
        request.put("module", name(names));
        request.put("version", version);
        request.put("title", title == null ? titleOf(names) : title);
        reach(reads.everybody, reads.privilege).ifPresent(reach -> request.put("reads", reach));
        reach(false, changeNeeds).ifPresent(reach -> request.put("changes", reach));
        request.put("tables", names.stream().map(this::table).toList());
        return request;
    }

    private List<String> everything() {
        return service()
                .desk("/desk/sources/" + Texts.encoded(source) + "/contents")
                .path("relations")
                .valueStream()
                .map(relation -> relation.path("name").asString())
                .toList();
    }

    private String name(List<String> names) {
        if (module != null) {
            return module;
        }
        String plain = (all ? source : names.getFirst())
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^[^a-z]+|-+$", "");
        if (plain.isEmpty()) {
            throw CommandFailure.mistyped("Say what the module is called, with --module.");
        }
        return plain;
    }

    private String titleOf(List<String> names) {
        String plain = name(names).replace('-', ' ');
        return Character.toUpperCase(plain.charAt(0)) + plain.substring(1);
    }

    private static Optional<Map<String, Object>> reach(boolean everybody, @Nullable String privilege) {
        return privilege != null
                ? Optional.of(Map.of("privilege", privilege))
                : everybody ? Optional.of(Map.of("everybody", true)) : Optional.empty();
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
        return table;
    }

    /** The text that the folder has of this module. */
    private Optional<ModuleText> existing() {
        int major = Version.parse(version).map(Version::major).orElse(1);
        String name = name(all ? List.of(source) : tables);
        return folder.read().modules().stream()
                .filter(known -> DraftName.of(known).toString().equals(name + "/v" + major))
                .map(Workspace.Module::text)
                .findFirst();
    }

    private void print(JsonNode answer, boolean whole) {
        PrintWriter out = out();
        if (whole) {
            answer.path("text").path("files").properties().forEach(file -> {
                out.println(Ansi.AUTO.string("@|bold " + file.getKey() + "|@"));
                file.getValue().asString().lines().forEach(line -> out.println("  " + line));
                out.println();
            });
        }
        answer.path("operations").forEach(operation -> out.println(operation.asString()));
        answer.path("notes")
                .forEach(note -> out.println(Ansi.AUTO.string("@|yellow not made|@  ")
                        + note.path("subject").asString() + ": "
                        + note.path("words").asString()));
        int found = RemoteFinding.standing(answer).size();
        if (found > 0) {
            out.println();
            new FindingPrinter(folder.path(), out).print(RemoteFinding.standing(answer));
        }
        if (whole) {
            out.println();
            out.println(
                    "Nothing was kept; the same with --write puts it into the workspace, with --push it becomes a draft.");
        }
    }

    private void write(JsonNode answer) {
        ModuleText text = ComparedText.text(answer.path("text"));
        Path place = folder.path().resolve(text.folder());
        try {
            Files.createDirectories(place);
            for (Map.Entry<String, String> file : text.files().entrySet()) {
                Files.writeString(place.resolve(file.getKey()), file.getValue());
            }
        } catch (IOException e) {
            throw CommandFailure.refused("The folder " + place + " cannot be written.");
        }
        err().println("Written to " + place + ". './tidy check" + folder.again() + " --with-sources' checks it.");
    }

    private void push(JsonNode answer) {
        String name = name(all ? List.of(source) : tables);
        int major = Version.parse(version).map(Version::major).orElse(1);
        String path = "/drafts/" + name + "/v" + major;
        var response = service().change("PUT", "/desk" + path, answer.path("text"), DraftNote.condition(null));
        if (response.statusCode() == THERE) {
            throw CommandFailure.refused("There is a draft of " + name + "/v" + major
                    + " already; choose another name with --module, or './tidy drafts drop' it.");
        }
        Service.expectSuccess(response);
        err().println("A draft: " + service().at(path + "/edit"));
    }
}
