package tidybridge.core.compile;

import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.text.Place;

/** Checks what is said of ends: that callers are told until when something works, and that what takes its place is there. */
final class DeprecationCheck {

    private static final Pattern PLACEHOLDER = Pattern.compile("\\{([^}]*)}");

    private DeprecationCheck() {}

    /**
     * Checks one.
     *
     * @param what begins the sentence, "The parameter 'basin'"
     */
    static void check(String what, Place place, @Nullable Deprecation deprecated, Findings findings) {
        if (deprecated != null && deprecated.ends() == null) {
            findings.add(
                    Code.DEPRECATED_UNDATED,
                    place,
                    what + " is deprecated, and callers are not told until when it works.",
                    "Write the day it ends, as 'deprecated: 2031-12-31'.");
        }
    }

    /** Checks an operation: what takes its place in the same module must be one of its routes. */
    static void checkOperation(
            OperationDefinition operation, PathTemplate path, ModuleDefinition module, Findings findings) {
        Deprecation deprecated = operation.deprecated();
        check("The operation", operation.place(), deprecated, findings);
        String successor = deprecated == null ? null : deprecated.successor();
        if (successor == null) {
            return;
        }
        List<String> known = path.placeholders();
        String unknown = placeholders(successor).stream()
                .filter(name -> !known.contains(name))
                .findFirst()
                .orElse(null);
        if (unknown != null) {
            findings.add(
                    Code.SUCCESSOR_UNKNOWN,
                    operation.place(),
                    "The successor '" + successor + "' has {" + unknown + "}, which the operation's own path has not.",
                    "Use the names of " + path.text() + ", which callers are told filled in.");
        } else if (successor.startsWith("/")
                && module.routes().stream()
                        .noneMatch(route -> PathTemplate.shape(route.path()).equals(PathTemplate.shape(successor)))) {
            findings.add(
                    Code.SUCCESSOR_UNKNOWN,
                    operation.place(),
                    "The module has no route " + successor + " that could take its place.",
                    "Name a route of this module, or one of another as 'moorings/v2" + successor + "'.");
        }
    }

    private static List<String> placeholders(String path) {
        return PLACEHOLDER.matcher(path).results().map(found -> found.group(1)).toList();
    }
}
