package tidybridge.service.desk;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tidybridge.core.access.Role;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Source;
import tidybridge.service.live.AtOnce;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;

/** Reads the texts of modules from requests, and compiles them in place of what is live. Thread-safe. */
@Component
class ModuleTexts {

    private final LiveModules modules;
    private final TextCompiler compiler;

    ModuleTexts(LiveModules modules, TextCompiler compiler) {
        this.modules = modules;
        this.compiler = compiler;
    }

    /**
     * Compiles texts, several at once because each waits for its source.
     *
     * @param roles all that there will be
     */
    List<TextCompiler.Compiled> compile(List<ModuleText> texts, List<Role> roles) {
        try {
            return AtOnce.map(texts, text -> compiler.compile(text, modules::operationIds, roles));
        } catch (Source.Unreachable e) {
            throw new DeskRefusal(
                    ProblemKind.SOURCE_UNAVAILABLE,
                    "A source does not answer, so nothing can be checked against it: " + e.getMessage());
        }
    }

    /** Two texts of one module cannot both be live. */
    static void refuseTwins(List<TextCompiler.Compiled> compiled) {
        Set<String> identities = new HashSet<>();
        for (TextCompiler.Compiled module : compiled) {
            ModulePlan plan = module.plan();
            if (plan != null && !identities.add(plan.identity())) {
                throw new DeskRefusal(
                        ProblemKind.CONFLICT, "The request holds " + plan.identity() + " twice; only one can be live.");
            }
        }
    }

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
