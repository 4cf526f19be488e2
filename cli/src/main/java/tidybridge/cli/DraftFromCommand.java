package tidybridge.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.core.definition.Workspace;
import tools.jackson.databind.JsonNode;

/** Makes a module's first text: prints it to be looked at, and keeps it when that is asked for. */
abstract class DraftFromCommand extends ServiceCommand {

    private static final int THERE = 412;

    @Option(
            names = "--module",
            paramLabel = "NAME",
            description = "The module's name; made of what is first unless given.")
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
        @Option(names = "--public", description = "Everybody may call it; what changes data stays closed.")
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

    /**
     * Makes the text.
     *
     * @param first what the module is called after unless somebody says a name
     * @param made what it is made from
     */
    final int make(String source, String first, Map<String, ?> made) {
        String name = name(first);
        JsonNode answer = made(source, first, made);
        if (!json.print(answer, out())) {
            print(answer, !keeping.write && !keeping.push);
        }
        if (keeping.write) {
            write(answer);
        } else if (keeping.push) {
            push(name, answer);
        }
        return 0;
    }

    /** Prints what was found out, when programs are to read it; true when they are. */
    final boolean printedForPrograms(JsonNode found) {
        return json.print(found, out());
    }

    final boolean isForPrograms() {
        return json.isWanted();
    }

    /** The same, neither printed nor kept. */
    final JsonNode made(String source, String first, Map<String, ?> made) {
        String name = name(first);
        Map<String, Object> request = new LinkedHashMap<>(made);
        request.put("source", source);
        request.put("module", name);
        request.put("version", version);
        request.put("title", title == null ? titleOf(name) : title);
        reach(reads.everybody, reads.privilege).ifPresent(reach -> request.put("reads", reach));
        reach(false, changeNeeds).ifPresent(reach -> request.put("changes", reach));
        Optional<ModuleText> there = keeping.write ? existing(name) : Optional.empty();
        there.ifPresent(text -> request.put("text", Map.of("folder", text.folder(), "files", text.files())));
        return posted("/desk/first-texts", request);
    }

    private String name(String first) {
        if (module != null) {
            return module;
        }
        String plain =
                first.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^[^a-z]+|-+$", "");
        if (plain.isEmpty()) {
            throw CommandFailure.mistyped("Say what the module is called, with --module.");
        }
        return plain;
    }

    private static String titleOf(String name) {
        String plain = name.replace('-', ' ');
        return Character.toUpperCase(plain.charAt(0)) + plain.substring(1);
    }

    private static Optional<Map<String, Object>> reach(boolean everybody, @Nullable String privilege) {
        return privilege != null
                ? Optional.of(Map.of("privilege", privilege))
                : everybody ? Optional.of(Map.of("everybody", true)) : Optional.empty();
    }

    private int major() {
        return Version.parse(version).map(Version::major).orElse(1);
    }

    /** The text that the folder has of this module. */
    private Optional<ModuleText> existing(String name) {
        return folder.read().modules().stream()
                .filter(known -> DraftName.of(known).toString().equals(name + "/v" + major()))
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
        if (answer.path("document").isObject()) {
            out.print(MatchTable.draw(answer.path("document")));
        } else {
            answer.path("operations").forEach(operation -> out.println(operation.asString()));
        }
        String label = answer.path("document").isObject() ? "note" : "not made";
        answer.path("notes")
                .forEach(note -> out.println(Ansi.AUTO.string("@|yellow " + label + "|@  ")
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

    private void push(String name, JsonNode answer) {
        String path = "/drafts/" + name + "/v" + major();
        HttpResponse<byte[]> response =
                service().change("PUT", "/desk" + path, answer.path("text"), DraftNote.condition(null));
        if (response.statusCode() == THERE) {
            throw CommandFailure.refused("There is a draft of " + name + "/v" + major()
                    + " already; choose another name with --module, or './tidy drafts drop' it.");
        }
        Service.expectSuccess(response);
        err().println("A draft: " + service().at(path + "/edit"));
    }
}
