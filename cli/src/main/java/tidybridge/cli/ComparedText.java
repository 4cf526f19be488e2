package tidybridge.cli;

import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Workspace;
import tools.jackson.databind.JsonNode;

/**
 * One side of a comparison.
 *
 * @param label what it is called where the two are shown
 */
record ComparedText(String label, Contract contract, ModuleText text) {

    /** Behind the name of a module, its draft. */
    private static final String DRAFT = "/draft";

    /**
     * Reads a side: a folder with a workspace, compiled against the sources of a service, or a release or draft of that service.
     *
     * @param side {@code moorings/1.0.0}, {@code moorings/v1}, {@code moorings/v1/draft}, or a folder
     */
    static List<ComparedText> read(String side, Service service) {
        if (ReleasedText.isNamed(side) && !Files.isDirectory(Path.of(side))) {
            return List.of(of(ReleasedText.read(side, service)));
        }
        if (side.endsWith(DRAFT) && !Files.isDirectory(Path.of(side))) {
            return List.of(ofDraft(DraftName.parse(side.substring(0, side.length() - DRAFT.length())), service));
        }
        CheckedWorkspace checked = CheckedWorkspace.read(Path.of(side));
        if (checked.errors() > 0 || checked.modules().isEmpty()) {
            throw CommandFailure.refused("The folder " + side + " cannot be compared. " + checked.summary());
        }
        HttpResponse<byte[]> response = service.post("/desk/comparisons", checked.request());
        return of(checked, Service.json(Service.expectSuccess(response)));
    }

    /** The modules of a folder, with what the service says they promise. */
    static List<ComparedText> of(CheckedWorkspace checked, JsonNode answer) {
        List<ComparedText> texts = new ArrayList<>();
        for (Workspace.Module module : checked.modules()) {
            String name = module.definition().name();
            int major = module.definition().version().major();
            answer.path("modules")
                    .valueStream()
                    .filter(told -> told.path("name").asString().equals(name)
                            && told.path("major").asInt() == major)
                    .map(told -> new ComparedText(
                            told.path("version").asString() + " (folder)",
                            Contract.read(told.path("contract").toString()),
                            module.text()))
                    .forEach(texts::add);
        }
        return texts;
    }

    /** A draft, compiled against the sources of its service. */
    private static ComparedText ofDraft(DraftName name, Service service) {
        JsonNode draft = service.desk(name.path());
        ModuleText text = text(draft.path("text"));
        HttpResponse<byte[]> response = service.post(
                "/desk/comparisons",
                Map.of("modules", List.of(Map.of("folder", text.folder(), "files", text.files()))));
        JsonNode told =
                Service.json(Service.expectSuccess(response)).path("modules").path(0);
        return new ComparedText(
                told.path("version").asString() + " (draft, revision "
                        + draft.path("revision").asInt() + ")",
                Contract.read(told.path("contract").toString()),
                text);
    }

    private static ComparedText of(ReleasedText release) {
        if (release.contract() == null) {
            throw CommandFailure.refused(release.label()
                    + " was published before contracts were kept, so nobody can tell what it promised.");
        }
        return new ComparedText(release.version(), Contract.read(release.contract()), release.text());
    }

    /** A text as the service writes it. */
    static ModuleText text(JsonNode node) {
        Map<String, String> files = new LinkedHashMap<>();
        node.path("files")
                .propertyStream()
                .forEach(file -> files.put(file.getKey(), file.getValue().asString()));
        return new ModuleText(node.path("folder").asString(""), files);
    }

    /** The same module on the other side: under the same major version where there is one; null for none. */
    static @Nullable ComparedText like(ComparedText one, List<ComparedText> others) {
        ComparedText found = null;
        for (ComparedText other : others) {
            boolean same = other.contract().module().equals(one.contract().module());
            if (same
                    && (found == null
                            || other.contract().identity().equals(one.contract().identity()))) {
                found = other;
            }
        }
        return found;
    }
}
