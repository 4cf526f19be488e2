package tidybridge.cli;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Role;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.compile.Compiler;
import tidybridge.core.definition.SourceDefinition;
import tidybridge.core.definition.Workspace;
import tidybridge.core.definition.WorkspaceReader;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;
import tidybridge.core.finding.Severity;

/**
 * A workspace folder, read and compiled.
 *
 * @param roles null when the text says nothing about roles
 * @param sources the names of those that it defines
 * @param modules what could be read; may be published only when no error stands
 */
record CheckedWorkspace(
        String title,
        @Nullable List<Role> roles,
        List<String> sources,
        List<Workspace.Module> modules,
        List<Finding> findings) {

    static CheckedWorkspace read(Path folder) {
        if (!Files.isDirectory(folder)) {
            throw CommandFailure.refused("There is no folder " + folder + "; name the one that holds workspace.yaml.");
        }
        Findings findings = new Findings();
        Workspace workspace;
        try {
            workspace = WorkspaceReader.read(folder, findings)
                    .orElseGet(() -> new Workspace("", List.of(), null, List.of()));
        } catch (IOException e) {
            throw CommandFailure.refused("The workspace cannot be read: " + e.getMessage() + ".");
        }
        // without roles of its own a text may count on those that were made on the service
        Compiler.Known known = new Compiler.Known(Map.of(), workspace.roles());
        workspace
                .modules()
                .forEach(module -> Compiler.compile(module.definition(), Catalog.offline(), findings, known));
        List<String> sources =
                workspace.sources().stream().map(SourceDefinition::name).toList();
        return new CheckedWorkspace(
                workspace.title(), workspace.roles(), sources, workspace.modules(), findings.sorted());
    }

    /** The same, with what the service finds by its databases; what both find is told once. */
    CheckedWorkspace withSources(Service service) {
        if (modules.isEmpty()) {
            return this;
        }
        HttpResponse<byte[]> response = Service.expectSuccess(service.post("/desk/checks", request()));
        Map<String, Finding> all = new LinkedHashMap<>();
        // the service knows the roles that were made there as well
        findings.stream()
                .filter(finding -> finding.code() != Code.PRIVILEGE_UNHELD)
                .forEach(finding -> all.put(key(finding), finding));
        Service.json(response).path("findings").forEach(node -> {
            Finding finding = RemoteFinding.read(node);
            all.put(key(finding), finding);
        });
        return new CheckedWorkspace(
                title,
                roles,
                sources,
                modules,
                all.values().stream()
                        .sorted(Comparator.comparing(
                                        (Finding finding) -> finding.place().file())
                                .thenComparingInt(finding -> finding.place().line())
                                .thenComparingInt(finding -> finding.place().column()))
                        .toList());
    }

    private static String key(Finding finding) {
        return finding.code() + " " + finding.place() + " " + finding.message();
    }

    /** The modules, and the roles if there is a word about them, as a request carries them. */
    Map<String, Object> request() {
        Map<String, Object> request = new LinkedHashMap<>();
        request.put("modules", texts());
        if (roles != null) {
            request.put("roles", roles);
        }
        return request;
    }

    /** The modules as a request carries them. */
    List<Map<String, Object>> texts() {
        return modules.stream().map(CheckedWorkspace::text).toList();
    }

    static Map<String, Object> text(Workspace.Module module) {
        return Map.of("folder", module.text().folder(), "files", module.text().files());
    }

    long errors() {
        return standing(Severity.ERROR);
    }

    /** How many findings of a severity are not accepted. */
    long standing(Severity severity) {
        return findings.stream()
                .filter(finding -> finding.severity() == severity && !finding.isAccepted())
                .count();
    }

    long accepted() {
        return findings.stream().filter(Finding::isAccepted).count();
    }

    int operations() {
        return modules.stream()
                .flatMap(module -> module.definition().routes().stream())
                .mapToInt(route -> route.operations().size())
                .sum();
    }

    /** "2 modules, 7 operations: no errors, 1 warning." */
    String summary() {
        List<String> parts = new ArrayList<>();
        parts.add(errors() == 0 ? "no errors" : count(errors(), "error"));
        if (standing(Severity.WARNING) > 0) {
            parts.add(count(standing(Severity.WARNING), "warning"));
        }
        if (standing(Severity.ADVICE) > 0) {
            parts.add(count(standing(Severity.ADVICE), "piece") + " of advice");
        }
        if (accepted() > 0) {
            parts.add(accepted() + " accepted");
        }
        return count(modules.size(), "module") + ", " + count(operations(), "operation") + ": "
                + String.join(", ", parts) + ".";
    }

    private static String count(long number, String noun) {
        return number + " " + noun + (number == 1 ? "" : "s");
    }
}
