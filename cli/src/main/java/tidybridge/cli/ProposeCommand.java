package tidybridge.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** {@code ./tidy propose --folder FOLDER} */
@Command(
        name = "propose",
        description = {
            "Propose the parameters and types that a workspace's text lacks, from its databases:",
            "the column a bind parameter is compared with or written to, or a routine's own parameter."
        },
        footer = {
            "",
            "Nothing is guessed when a call comes; what is proposed becomes part of the text, or nothing at all.",
            "",
            "Examples:",
            "  ./tidy propose --folder demo/workspace",
            "  ./tidy propose --folder demo/workspace --write"
        })
final class ProposeCommand extends ServiceCommand {

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Option(names = "--write", description = "Write them into each module.yaml; the rest of the text stays as it is.")
    private boolean write;

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        PrintWriter out = out();
        CheckedWorkspace checked = folder.read();
        JsonNode answer = ask(checked);
        if (!json.print(answer, out)) {
            answer.path("proposals").forEach(proposal -> print(proposal, out));
        }
        List<JsonNode> written = answer.path("proposals")
                .valueStream()
                .filter(proposal -> proposal.path("written").asBoolean())
                .toList();
        if (write) {
            written.stream()
                    .map(proposal -> proposal.path("folder").asString())
                    .distinct()
                    .forEach(module ->
                            save(module, answer.path("texts").path(module).asString()));
        }
        if (!json.isWanted()) {
            out.println(summary(answer.path("proposals").size(), written.size()));
        }
        return 0;
    }

    /** One module at a time, so that the wait for many is seen to pass. */
    private JsonNode ask(CheckedWorkspace checked) {
        ObjectNode all = JsonMapper.shared().createObjectNode();
        ArrayNode proposals = all.putArray("proposals");
        ObjectNode texts = all.putObject("texts");
        int asked = 0;
        for (Map<String, Object> text : checked.texts()) {
            asked++;
            if (checked.texts().size() > 1) {
                err().println("Asking about " + text.get("folder") + " (" + asked + " of "
                        + checked.texts().size() + ") ...");
                err().flush();
            }
            JsonNode answer = posted("/desk/proposals", Map.of("modules", List.of(text)));
            answer.path("proposals").forEach(proposals::add);
            answer.path("texts").properties().forEach(entry -> texts.set(entry.getKey(), entry.getValue()));
        }
        return all;
    }

    private String summary(int all, int written) {
        if (all == 0) {
            return "Nothing is lacking that the catalog could tell.";
        }
        if (write) {
            return written + " written."
                    + (written < all ? " The others have no place of their own to be written to." : "");
        }
        return "Type './tidy propose" + folder.again() + " --write' to write them into the text.";
    }

    private static void print(JsonNode proposal, PrintWriter out) {
        out.println(Ansi.AUTO.string("@|bold " + proposal.path("folder").asString() + "|@  "
                + proposal.path("operation").asString()));
        out.println("  :" + proposal.path("bind").asString() + " meets "
                + proposal.path("where").asString());
        out.println("  " + proposal.path("bind").asString() + ": "
                + (proposal.path("missing").asString().equals("type") ? "add " : "")
                + proposal.path("definition").asString());
        out.println();
    }

    private void save(String module, String text) {
        Path file = folder.path().resolve(module).resolve("module.yaml");
        try {
            Files.writeString(file, text);
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + file + " cannot be written.");
        }
    }
}
