package tidybridge.core.definition;

import java.util.List;

/** A folder of text that a team keeps in version control, as read. */
public record Workspace(String title, List<SourceDefinition> sources, List<Module> modules) {

    /** A module's text beside what was read from it. */
    public record Module(ModuleText text, ModuleDefinition definition) {}

    public Workspace {
        sources = List.copyOf(sources);
        modules = List.copyOf(modules);
    }
}
