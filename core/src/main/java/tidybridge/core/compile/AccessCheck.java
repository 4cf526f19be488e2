package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.Needs;
import tidybridge.core.access.Role;
import tidybridge.core.definition.FieldRule;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.text.Place;

/** What is told about who may call the operations of a module. */
final class AccessCheck {

    private final ModuleDefinition module;
    private final @Nullable Collection<Role> roles;
    private final Findings findings;
    private final List<Guarded> all = new ArrayList<>();

    /** An operation with what it asks of its caller. */
    private record Guarded(RouteDefinition route, OperationDefinition operation, Needs needs) {
        String label() {
            return OperationDefinition.label(operation.method(), route.path());
        }

        /** True when neither it nor its route or module says anything. */
        boolean unsaid(ModuleDefinition module) {
            return needs.equals(Needs.CLOSED)
                    && module.access().opened() == null
                    && route.access().opened() == null
                    && operation.access().opened() == null;
        }
    }

    /**
     * Prepares the check.
     *
     * @param roles all there are; null when that is not known
     */
    AccessCheck(ModuleDefinition module, @Nullable Collection<Role> roles, Findings findings) {
        this.module = module;
        this.roles = roles;
        this.findings = findings;
        for (RouteDefinition route : module.routes()) {
            for (OperationDefinition operation : route.operations()) {
                all.add(new Guarded(route, operation, module.needs(route, operation)));
            }
        }
    }

    void check() {
        checkUnsaid();
        checkOpen();
        all.forEach(this::checkSiblings);
        if (roles != null) {
            checkHeld(roles);
        }
    }

    private void checkUnsaid() {
        List<Guarded> unsaid =
                all.stream().filter(guarded -> guarded.unsaid(module)).toList();
        String remedy = "Write 'needs: " + module.name()
                + ".read' with the privilege that callers must hold, or 'public: false' to keep it closed.";
        if (!unsaid.isEmpty() && unsaid.size() == all.size()) {
            findings.add(
                    Code.ACCESS_UNSAID,
                    module.place(),
                    "The module does not say who may call it, so nobody but an administrator may.",
                    remedy);
            return;
        }
        unsaid.forEach(guarded -> findings.of(
                guarded.label(),
                () -> findings.add(
                        Code.ACCESS_UNSAID,
                        guarded.operation.place(),
                        "Nothing says who may call the operation, so nobody but an administrator may.",
                        remedy)));
    }

    private void checkOpen() {
        if (module.access().opens()) {
            findings.add(
                    Code.OPEN_TO_EVERYBODY,
                    module.access().place(),
                    "Anybody may call this module, without a key.",
                    "Remove 'public: true', or accept this with the reason why it is open.");
        }
        for (Guarded guarded : all) {
            boolean opened =
                    guarded.route.access().opens() || guarded.operation.access().opens();
            if (guarded.needs.open() && opened) {
                Place place = guarded.operation.access().opens()
                        ? guarded.operation.access().place()
                        : guarded.route.access().place();
                findings.of(
                        guarded.label(),
                        () -> findings.add(
                                Code.OPEN_TO_EVERYBODY,
                                place,
                                "Anybody may call this operation, without a key.",
                                "Remove 'public: true', or accept this with the reason why it is open."));
            }
        }
    }

    /** What is opened further out, while a route beside it asks for a privilege, was perhaps forgotten. */
    private void checkSiblings(Guarded open) {
        if (!open.needs.open() || open.operation.access().opens()) {
            return;
        }
        all.stream()
                .filter(other -> !other.needs.open() && areSiblings(open, other))
                .findFirst()
                .ifPresent(
                        other -> findings.of(
                                open.label(),
                                () -> findings.add(
                                        Code.SIBLING_OPEN,
                                        open.operation.place(),
                                        "Anybody may call the operation, while " + other.label()
                                                + " beside it is protected.",
                                        "Write 'needs:' here too, or 'public: true' under the operation itself when that is meant.")));
    }

    /** True for two ways to the same kind of thing: both read or both do not, and their paths differ in the last segment at most. */
    private static boolean areSiblings(Guarded one, Guarded other) {
        return one != other
                && one.operation.method().isSafe() == other.operation.method().isSafe()
                && parent(one.route.path()).equals(parent(other.route.path()));
    }

    /** The path above, whatever its placeholders are called; of what lies at the top, itself. */
    private static String parent(String path) {
        int last = path.lastIndexOf('/');
        return PathTemplate.shape(last > 0 ? path.substring(0, last) : path);
    }

    private void checkHeld(Collection<Role> known) {
        List<Holdings> holdings = known.stream()
                .map(Role::holdings)
                .filter(held -> held != Holdings.ALL)
                .toList();
        Set<String> told = new TreeSet<>();
        for (Guarded guarded : all) {
            guarded.needs.anyOf().stream()
                    .filter(privilege -> holdings.stream().noneMatch(held -> held.test(privilege)))
                    .filter(told::add)
                    .forEach(privilege -> unheld(guarded, privilege, nearest(guarded)));
            guarded.operation.answer().rules().stream()
                    .filter(field -> isUnheld(field, holdings) && told.add(String.valueOf(field.unless())))
                    .forEach(field -> unheld(guarded, String.valueOf(field.unless()), field.place()));
        }
    }

    private static boolean isUnheld(FieldRule field, List<Holdings> holdings) {
        String privilege = field.unless();
        return privilege != null && holdings.stream().noneMatch(held -> held.test(privilege));
    }

    private Place nearest(Guarded guarded) {
        return !guarded.operation.access().needs().isEmpty()
                ? guarded.operation.access().place()
                : !guarded.route.access().needs().isEmpty()
                        ? guarded.route.access().place()
                        : module.access().place();
    }

    private void unheld(Guarded guarded, String privilege, Place place) {
        findings.of(
                guarded.label(),
                () -> findings.add(
                        Code.PRIVILEGE_UNHELD,
                        place,
                        "No role holds the privilege '" + privilege + "', so nobody can be given it.",
                        "Give it to a role: 'roles:' in workspace.yaml, or './tidy role set NAME --holds " + privilege
                                + "'."));
    }
}
