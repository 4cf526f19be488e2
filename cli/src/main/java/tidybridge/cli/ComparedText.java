package tidybridge.cli;

import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
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

    private static final Pattern RELEASE = Pattern.compile("([^/]+)/(v\\d{1,5}|\\d+\\.\\d+\\.\\d+)");

    /**
     * Reads a side: a folder with a workspace, compiled against the sources of a service, or a release of that service.
     *
     * @param side {@code moorings/1.0.0}, {@code moorings/v1}, or a folder
     */
    static List<ComparedText> read(String side, Service service) {
        Matcher release = RELEASE.matcher(side);
        if (release.matches() && !Files.isDirectory(Path.of(side))) {
            return List.of(release(release.group(1), release.group(2), service));
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

    private static ComparedText release(String name, String version, Service service) {
        String path = "/desk/releases/" + Texts.encoded(name) + "/";
        String number = version.startsWith("v")
                ? service.desk("/desk/modules/" + Texts.encoded(name) + "/" + version)
                        .path("version")
                        .asString()
                : version;
        JsonNode release = service.desk(path + number);
        if (!release.has("contract")) {
            throw CommandFailure.refused(name + " " + number
                    + " was published before contracts were kept, so nobody can tell what it promised.");
        }
        return new ComparedText(number, Contract.read(release.path("contract").toString()), text(release.path("text")));
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
