package tidybridge.core.definition;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import tidybridge.core.access.Role;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/** Reads a workspace folder: {@code workspace.yaml}, and every {@code module.yaml} below {@code modules/} with its SQL files. */
public final class WorkspaceReader {

    /** The file that makes a folder a workspace. */
    public static final String MAIN = "workspace.yaml";

    private static final long LARGEST_FILE_BYTES = 1024 * 1024;

    private final Path folder;
    private final Findings findings;

    private WorkspaceReader(Path folder, Findings findings) {
        this.folder = folder;
        this.findings = findings;
    }

    /**
     * Reads the folder; everything unfit becomes a finding, with its place relative to the folder.
     *
     * @throws IOException when a file is there but cannot be read
     */
    public static Optional<Workspace> read(Path folder, Findings findings) throws IOException {
        if (!Files.isRegularFile(folder.resolve(MAIN))) {
            findings.add(
                    Code.WORKSPACE_MISSING,
                    Place.of(MAIN),
                    "There is no " + MAIN + " in this folder.",
                    "Name the folder that holds it, or create it with 'workspace: ...' and 'sources:'.");
            return Optional.empty();
        }
        return new WorkspaceReader(folder.toRealPath(), findings).read();
    }

    private Optional<Workspace> read() throws IOException {
        SourceText source = new SourceText(MAIN, readFile(folder.resolve(MAIN)));
        Optional<MappingReader> keys = ModuleReader.root(source, findings)
                .flatMap(root -> MappingReader.open(root, "a workspace", findings, SourceReader.WORKSPACE_KEYS));
        Map<String, SourceDefinition> sources = Map.of();
        String title = "";
        List<Role> roles = null;
        if (keys.isPresent()) {
            title = keys.get().required("workspace", "Add 'workspace: ...', its name for people.");
            sources = SourceReader.with(findings).read(keys.get(), null);
            roles = keys.get().node("roles") == null
                    ? null
                    : List.copyOf(new AccessReader(findings).roles(keys.get()).values());
        }
        List<Workspace.Module> modules = modules(sources.keySet(), keys.isPresent());
        return keys.isEmpty()
                ? Optional.empty()
                : Optional.of(new Workspace(title == null ? "" : title, List.copyOf(sources.values()), roles, modules));
    }

    private List<Workspace.Module> modules(Set<String> sources, boolean sourcesKnown) throws IOException {
        List<Workspace.Module> modules = new ArrayList<>();
        Map<String, Place> seen = new HashMap<>();
        List<Path> files = moduleFiles();
        if (files.isEmpty()) {
            findings.add(
                    Code.NOTHING_DEFINED,
                    Place.of(MAIN),
                    "The workspace has no modules.",
                    "Create 'modules/NAME/v1/module.yaml'.");
        }
        for (Path file : files) {
            ModuleText text = moduleText(file.resolveSibling(".").normalize());
            Optional<ModuleDefinition> definition = ModuleReader.read(text, findings);
            if (definition.isPresent()) {
                ModuleDefinition module = definition.get();
                checkIdentity(module, seen);
                if (sourcesKnown && !sources.contains(module.source())) {
                    findings.add(
                            Code.SOURCE_UNKNOWN,
                            module.sourcePlace(),
                            "The workspace knows no source '" + module.source() + "'."
                                    + Nearest.hint(module.source(), sources),
                            "Add it under 'sources:' in " + MAIN + ", or mend the name.");
                }
                modules.add(new Workspace.Module(text, module));
            }
        }
        return modules;
    }

    private void checkIdentity(ModuleDefinition module, Map<String, Place> seen) {
        String identity = module.name() + "/v" + module.version().major();
        Place other = seen.putIfAbsent(identity, module.place());
        if (other != null) {
            findings.add(
                    Code.MODULE_TWICE,
                    module.place(),
                    identity + " is defined in " + other + " already.",
                    "Give it another name or major version, or remove one of the two.");
        }
        String expected = "modules/" + identity + "/" + ModuleText.MAIN;
        if (!module.place().file().equals(expected)) {
            findings.add(
                    Code.FOLDER_MISMATCH,
                    module.place(),
                    identity + " does not lie where people will look for it.",
                    "Move it to " + expected + ".");
        }
    }

    private List<Path> moduleFiles() throws IOException {
        Path modules = folder.resolve("modules");
        if (!Files.isDirectory(modules)) {
            return List.of();
        }
        try (Stream<Path> walk = Files.walk(modules)) {
            return walk.filter(path -> path.getFileName().toString().equals(ModuleText.MAIN))
                    .sorted()
                    .toList();
        }
    }

    private ModuleText moduleText(Path moduleFolder) throws IOException {
        Map<String, String> files = new HashMap<>();
        try (Stream<Path> walk = Files.walk(moduleFolder)) {
            for (Path file : walk.filter(Files::isRegularFile).sorted().toList()) {
                String name = slashes(moduleFolder.relativize(file));
                if (!belongs(name)) {
                    continue;
                }
                if (!file.toRealPath().startsWith(folder)) {
                    findings.add(
                            Code.FILE_OUTSIDE,
                            Place.of(slashes(folder.relativize(file))),
                            "This file is a link to a place outside the workspace folder.",
                            "Put the file itself here.");
                } else {
                    files.put(name, readFile(file));
                }
            }
        }
        return new ModuleText(slashes(folder.relativize(moduleFolder)), files);
    }

    private static boolean belongs(String name) {
        return name.equals(ModuleText.MAIN) || name.endsWith(".sql") || ModuleText.isGuide(name);
    }

    private String readFile(Path file) throws IOException {
        if (Files.size(file) > LARGEST_FILE_BYTES) {
            throw new IOException(
                    folder.relativize(file) + " is larger than 1 MiB; definitions and statements are not");
        }
        try {
            return Files.readString(file);
        } catch (java.nio.charset.CharacterCodingException e) {
            throw new IOException(folder.relativize(file) + " is not UTF-8 text; save it as UTF-8", e);
        }
    }

    private static String slashes(Path path) {
        return path.toString().replace('\\', '/');
    }
}
