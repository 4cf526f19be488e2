package tidybridge.core.definition;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Role;

/**
 * A folder of text that a team keeps in version control, as read.
 *
 * @param roles null when the text says nothing about roles
 */
public record Workspace(
        String title,
        List<SourceDefinition> sources,
        @Nullable List<Role> roles,
        List<Module> modules) {

    /** A module's text beside what was read from it. */
    public record Module(ModuleText text, ModuleDefinition definition) {}

    public Workspace {
        sources = List.copyOf(sources);
        roles = roles == null ? null : List.copyOf(roles);
        modules = List.copyOf(modules);
    }
}
