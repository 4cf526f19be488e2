package tidybridge.core.access;

import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A named set of privileges.
 *
 * @param about a sentence for whoever gives it; null for none
 * @param holds privileges and groups of them, {@code moorings.*}, as written
 */
public record Role(String name, @Nullable String about, List<String> holds) {

    private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9-]{0,62}");

    /** The roles every service knows. They cannot be changed. */
    public static final List<Role> BUILT_IN = List.of(
            new Role("administrator", "Holds every privilege.", List.of(Holdings.EVERY)),
            new Role(
                    "integration-developer",
                    "Writes modules: looks, tries, rehearses and edits.",
                    List.of(
                            ServicePrivilege.READ.privilege(),
                            ServicePrivilege.TRY.privilege(),
                            ServicePrivilege.REHEARSE.privilege(),
                            ServicePrivilege.EDIT.privilege())),
            new Role(
                    "reviewer",
                    "Looks at what others wrote, tries it and publishes it.",
                    List.of(
                            ServicePrivilege.READ.privilege(),
                            ServicePrivilege.TRY.privilege(),
                            ServicePrivilege.PUBLISH.privilege())),
            new Role(
                    "operator",
                    "Keeps the service running: sources and what is live.",
                    List.of(ServicePrivilege.READ.privilege(), ServicePrivilege.OPERATE.privilege())));

    public Role {
        holds = List.copyOf(holds);
    }

    /** True for lower-case letters, digits and hyphens. */
    public static boolean isName(String text) {
        return NAME.matcher(text).matches();
    }

    /** One of {@link #BUILT_IN}. */
    public static Optional<Role> builtIn(String name) {
        return BUILT_IN.stream().filter(role -> role.name().equals(name)).findFirst();
    }

    /** What it comes to. */
    public Holdings holdings() {
        return Holdings.of(holds);
    }
}
