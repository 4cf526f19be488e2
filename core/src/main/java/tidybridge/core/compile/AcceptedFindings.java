package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.definition.Acceptance;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;

/** Marks the findings that a module's text accepts, and finds acceptances that nothing needs any more. */
final class AcceptedFindings {

    private final ModuleDefinition module;
    private final boolean offline;
    private final boolean rolesKnown;
    private final Findings findings;
    private final String folder;
    private final Set<Acceptance> used = new HashSet<>();

    /** An acceptance with the operation it speaks of, empty for the whole module. */
    record Scoped(Optional<String> operation, Acceptance acceptance) {}

    AcceptedFindings(ModuleDefinition module, Catalog catalog, Compiler.Known known, Findings findings) {
        this.module = module;
        this.offline = catalog.isOffline();
        this.rolesKnown = known.roles() != null;
        this.findings = findings;
        String file = module.place().file();
        this.folder = file.substring(0, file.lastIndexOf('/') + 1);
    }

    /** Marks what is accepted, and finds what is accepted in vain. */
    void apply() {
        for (Scoped scoped : accept()) {
            if (!used.contains(scoped.acceptance)) {
                idle(scoped);
            }
        }
    }

    /** Marks what is accepted; all acceptances of the text. */
    List<Scoped> accept() {
        List<Scoped> all = new ArrayList<>();
        module.accepted().forEach(acceptance -> all.add(new Scoped(Optional.empty(), acceptance)));
        for (RouteDefinition route : module.routes()) {
            for (OperationDefinition operation : route.operations()) {
                String label = OperationDefinition.label(operation.method(), route.path());
                operation.accepted().forEach(acceptance -> all.add(new Scoped(Optional.of(label), acceptance)));
            }
        }
        if (!all.isEmpty()) {
            findings.accept(finding -> reason(finding, all));
        }
        return all;
    }

    private Optional<String> reason(Finding finding, List<Scoped> all) {
        if (!finding.place().file().startsWith(folder)) {
            return Optional.ofNullable(finding.accepted());
        }
        for (Scoped scoped : all) {
            boolean concerns =
                    scoped.operation.isEmpty() || scoped.operation.get().equals(finding.operation());
            if (concerns && scoped.acceptance.code().equals(finding.code().label())) {
                used.add(scoped.acceptance);
                return Optional.of(scoped.acceptance.reason());
            }
        }
        return Optional.ofNullable(finding.accepted());
    }

    /** Without a source nobody knows whether it would find what is accepted. */
    private void idle(Scoped scoped) {
        // once the new name is published, nothing finds it again, and the text need not change for that
        boolean past = scoped.acceptance.code().equals(Code.OPERATION_RENAMED.label());
        boolean ofRoles = scoped.acceptance.code().equals(Code.PRIVILEGE_UNHELD.label());
        boolean unknown = past
                || ofRoles && !rolesKnown
                || offline
                        && Code.labelled(scoped.acceptance.code())
                                .map(Code::needsSource)
                                .orElse(false);
        if (!unknown) {
            findings.add(
                    Code.ACCEPTANCE_IDLE,
                    scoped.acceptance.place(),
                    "Nothing finds '" + scoped.acceptance.code() + "' here any more.",
                    "Remove it, so that the next one is noticed.");
        }
    }
}
