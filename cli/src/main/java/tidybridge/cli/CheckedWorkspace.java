package tidybridge.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.definition.Workspace;
import tidybridge.core.definition.WorkspaceReader;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.Compiler;

/**
 * A workspace folder, read and compiled without a service or a database.
 *
 * @param modules what could be read; may be published only when {@link #errors} is 0
 */
record CheckedWorkspace(List<Workspace.Module> modules, List<Finding> findings, int errors) {

    static CheckedWorkspace read(Path folder) {
        if (!Files.isDirectory(folder)) {
            throw CommandFailure.refused("There is no folder " + folder + "; name the one that holds workspace.yaml.");
        }
        Findings findings = new Findings();
        List<Workspace.Module> modules = new ArrayList<>();
        try {
            Optional<Workspace> workspace = WorkspaceReader.read(folder, findings);
            workspace.ifPresent(read -> modules.addAll(read.modules()));
        } catch (IOException e) {
            throw CommandFailure.refused("The workspace cannot be read: " + e.getMessage() + ".");
        }
        modules.forEach(module -> Compiler.compile(module.definition(), Catalog.offline(), findings));
        return new CheckedWorkspace(List.copyOf(modules), findings.sorted(), findings.errors());
    }

    int warnings() {
        return findings.size() - errors;
    }

    int operations() {
        return modules.stream()
                .flatMap(module -> module.definition().routes().stream())
                .mapToInt(route -> route.operations().size())
                .sum();
    }

    /** "2 modules, 7 operations: no errors, 1 warning." */
    String summary() {
        return count(modules.size(), "module") + ", " + count(operations(), "operation") + ": "
                + (errors == 0 ? "no errors" : count(errors, "error"))
                + (warnings() == 0 ? "" : ", " + count(warnings(), "warning")) + ".";
    }

    private static String count(int number, String noun) {
        return number + " " + noun + (number == 1 ? "" : "s");
    }
}
