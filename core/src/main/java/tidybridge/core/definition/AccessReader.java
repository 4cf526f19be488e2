package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tidybridge.core.access.Privilege;
import tidybridge.core.access.Role;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads {@code needs}, {@code public} and {@code roles}. */
final class AccessReader {

    static final List<String> ROLE_KEYS = List.of("about", "holds");
    private static final int MOST_PRIVILEGES = 20;

    private final Findings findings;

    AccessReader(Findings findings) {
        this.findings = findings;
    }

    AccessRule rule(MappingReader keys) {
        boolean said = keys.node("public") != null;
        boolean open = keys.flag("public");
        List<String> needs = new ArrayList<>();
        for (Node.Scalar scalar : keys.texts("needs")) {
            if (isNeeded(scalar)) {
                needs.add(scalar.text());
            }
        }
        if (keys.node("needs") instanceof Node.Sequence none && none.items().isEmpty()) {
            keys.unfit("needs", "names no privilege", "Name one, as in 'needs: moorings.book', or remove the key.");
        }
        if (needs.size() > MOST_PRIVILEGES) {
            keys.unfit(
                    "needs",
                    "names more than " + MOST_PRIVILEGES + " privileges",
                    "Give one privilege of its own to all of them.");
        }
        if (open && keys.node("needs") != null) {
            keys.unfit("needs", "stands beside 'public: true', which asks for nothing", "Remove one of the two.");
        }
        return new AccessRule(said ? open : null, needs, keys.placeOf(said ? "public" : "needs"));
    }

    private boolean isNeeded(Node.Scalar scalar) {
        if (!Privilege.isName(scalar.text())) {
            findings.add(
                    Code.VALUE_UNFIT,
                    scalar.place(),
                    "The key 'needs' holds what is no name of a privilege.",
                    "Write lower-case words with dots between them, as in 'moorings.book'.");
            return false;
        }
        if (Privilege.isOwn(scalar.text())) {
            findings.add(
                    Code.VALUE_UNFIT,
                    scalar.place(),
                    "Privileges that begin with '" + Privilege.OWN + "' are the service's own.",
                    "Name one after your module, as in 'moorings.book'.");
            return false;
        }
        return true;
    }

    /** The roles of a workspace, by name in the order of the text. */
    Map<String, Role> roles(MappingReader keys) {
        Map<String, Role> roles = new LinkedHashMap<>();
        Node node = keys.node("roles");
        if (node != null) {
            MappingReader.openAny(node, "roles", findings).ifPresent(names -> {
                for (Node.Entry entry : names.entries()) {
                    if (fits(names, entry)) {
                        MappingReader.open(entry.value(), "a role", findings, ROLE_KEYS)
                                .ifPresent(role -> roles.put(entry.key(), role(entry.key(), role)));
                    }
                }
            });
        }
        return roles;
    }

    private static boolean fits(MappingReader names, Node.Entry entry) {
        if (!Role.isName(entry.key())) {
            names.unfit(entry.key(), "is no role's name", "Use lower-case letters, digits and hyphens.");
            return false;
        }
        if (Role.builtIn(entry.key()).isPresent()) {
            names.unfit(entry.key(), "is a role that every service has", "Choose another name.");
            return false;
        }
        return true;
    }

    private Role role(String name, MappingReader keys) {
        if (keys.node("holds") == null) {
            keys.required("holds", "Add 'holds: [moorings.read]' with the role's privileges.");
        }
        List<String> holds = new ArrayList<>();
        for (Node.Scalar scalar : keys.texts("holds")) {
            String text = scalar.text();
            if (Privilege.isName(text) || Privilege.isGroup(text)) {
                holds.add(text);
            } else {
                findings.add(
                        Code.VALUE_UNFIT,
                        scalar.place(),
                        "A role holds privileges, and this is no name of one.",
                        "Write 'moorings.book', or 'moorings.*' for a whole group.");
            }
        }
        return new Role(name, keys.text("about"), holds);
    }
}
