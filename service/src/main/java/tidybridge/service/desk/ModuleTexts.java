package tidybridge.service.desk;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Role;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.problem.ProblemKind;

/** Reads the texts of modules from requests. */
final class ModuleTexts {

    private ModuleTexts() {}

    /** A module's text as it travels. */
    record TextView(@Nullable String folder, @Nullable Map<String, String> files) {}

    /** A role of a workspace's text as it travels. */
    record RoleText(
            @Nullable String name,
            @Nullable String about,
            @Nullable List<@Nullable String> holds) {

        Role role() {
            return new Role(name == null ? "" : name, about, DeskRefusal.texts("holds", holds));
        }
    }

    static List<Role> roles(List<@Nullable RoleText> texts) {
        List<Role> roles = new ArrayList<>();
        Set<String> names = new HashSet<>();
        for (RoleText text : texts) {
            if (text == null || !names.add(String.valueOf(text.name()))) {
                throw new DeskRefusal(ProblemKind.BAD_INPUT, "'roles' names each role once.");
            }
            roles.add(text.role());
        }
        return roles;
    }

    /** The roles there will be: those that are known, with those of a text in place of others of their names. */
    static List<Role> roles(@Nullable List<@Nullable RoleText> texts, Collection<Role> known) {
        Map<String, Role> all = new LinkedHashMap<>();
        known.forEach(role -> all.put(role.name(), role));
        if (texts != null) {
            roles(texts).forEach(role -> all.put(role.name(), role));
        }
        return List.copyOf(all.values());
    }

    static List<ModuleText> of(@Nullable List<TextView> modules) {
        if (modules == null || modules.isEmpty()) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "The request names no modules; send 'modules' with at least one.");
        }
        List<ModuleText> texts = new ArrayList<>();
        for (@Nullable TextView text : modules) {
            Map<String, String> files = text == null ? null : text.files();
            if (text == null || files == null || !files.containsKey(ModuleText.MAIN) || files.containsValue(null)) {
                throw new DeskRefusal(
                        ProblemKind.BAD_INPUT,
                        "Each module needs 'files' with " + ModuleText.MAIN + " and its statements.");
            }
            texts.add(new ModuleText(text.folder() == null ? "" : text.folder(), files));
        }
        return texts;
    }
}
