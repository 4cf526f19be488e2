package tidybridge.service.access;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.Privilege;
import tidybridge.core.access.Role;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.records.AuditEntry;
import tidybridge.records.Person;
import tidybridge.records.StoredRole;
import tidybridge.service.run.Refusal;

/**
 * Changes roles and people, after checking what is asked and whether whoever asks may give it: nobody gives a privilege of the service's own, or
 * a role with one, without holding it. Each change is written down with who made it. Thread-safe.
 */
public final class AccessChanges {

    private static final Pattern PERSON = Pattern.compile("[a-z][a-z0-9._@-]{0,62}");
    private static final int MOST_PRIVILEGES = 200;

    private final LiveAccess access;
    private final Clock clock;

    public AccessChanges(LiveAccess access, Clock clock) {
        this.access = access;
        this.clock = clock;
    }

    /** True for what a person may be called. */
    static boolean isPersonsName(String name) {
        return PERSON.matcher(name).matches() && !name.equals(Identity.ADMINISTRATOR.name());
    }

    /** Makes a role, or changes it. */
    public void putRole(Role role, Visitor by) throws Refusal {
        checkRole(role);
        StoredRole before = stored(role.name());
        if (before != null && before.workspace() != null) {
            throw AccessRules.conflict("The role '" + role.name() + "' is written in the text of the workspace '"
                    + before.workspace() + "'; change it there, and publish.");
        }
        AccessRules.checkMayGive(role.holdings(), by);
        if (before != null) {
            AccessRules.checkMayGive(before.role().holdings(), by);
        }
        String change = before == null
                ? "holds " + role.holdings()
                : "held " + before.role().holdings() + ", holds " + role.holdings();
        AuditEntry entry = entry(by, "set-role", role.name(), change)
                .changing(States.of(before == null ? null : before.role()), States.of(role));
        access.change(records -> records.put(new StoredRole(role, null), entry));
    }

    private void checkRole(Role role) throws Refusal {
        if (!Role.isName(role.name())) {
            throw AccessRules.unfit("A role's name is lower-case letters, digits and hyphens, as in 'lock-keeper'.");
        }
        if (Role.builtIn(role.name()).isPresent()) {
            throw AccessRules.conflict(
                    "The role '" + role.name() + "' is one that every service has; it cannot be changed.");
        }
        if (role.holds().isEmpty() || role.holds().size() > MOST_PRIVILEGES) {
            throw AccessRules.unfit("A role holds 1 to " + MOST_PRIVILEGES + " privileges.");
        }
        if (!role.holds().stream().allMatch(held -> Privilege.isName(held) || Privilege.isGroup(held))) {
            throw AccessRules.unfit("A privilege is written as 'moorings.book', and a group of them as 'moorings.*'.");
        }
        AccessRules.checkLength("about", role.about(), AccessRules.LONGEST_ABOUT);
    }

    /** Removes a role, and takes it from whoever has it. */
    public void removeRole(String name, Visitor by) throws Refusal {
        StoredRole stored = stored(name);
        if (Role.builtIn(name).isPresent()) {
            throw AccessRules.conflict("The role '" + name + "' is one that every service has; it cannot be removed.");
        }
        if (stored != null && stored.workspace() != null) {
            throw AccessRules.conflict("The role '" + name + "' is written in the text of the workspace '"
                    + stored.workspace() + "'; remove it there, and publish.");
        }
        if (stored != null) {
            AccessRules.checkMayGive(stored.role().holdings(), by);
        }
        long holders = access.now().holders(name);
        boolean removed = stored != null
                && access.changed(records -> records.removeRole(
                        name,
                        entry(by, "remove-role", name, "from " + holders + " holders")
                                .changing(States.of(stored.role()), null)));
        if (!removed) {
            throw AccessRules.unknown(
                    "role", name, access.now().roles().stream().map(Role::name).toList());
        }
    }

    /**
     * What publishing does to a role of the text.
     *
     * @param outcome {@code made}, {@code changed} or {@code removed}
     * @param holders how many people and applications have it
     */
    public record RoleChange(String name, String outcome, long holders) {}

    /**
     * Finds what changes when a workspace's roles become those of its text.
     *
     * @throws Refusal when something does, and it must not: a name is another's, or whoever asks may not give access
     */
    public List<RoleChange> changes(String workspace, List<Role> text, Visitor by) throws Refusal {
        List<RoleChange> changes = new ArrayList<>();
        AccessBook book = access.now();
        for (Role role : text) {
            checkRole(role);
            StoredRole before = stored(role.name());
            if (before != null && !workspace.equals(before.workspace())) {
                throw AccessRules.conflict("The role '" + role.name() + "' is known here already, "
                        + (before.workspace() == null
                                ? "made by hand; remove it, or write another name."
                                : "from the workspace '" + before.workspace() + "'; write another name."));
            }
            if (before == null || !before.role().equals(role)) {
                AccessRules.checkMayGive(role.holdings(), by);
                AccessRules.checkMayGive(
                        before == null ? Holdings.NONE : before.role().holdings(), by);
                changes.add(
                        new RoleChange(role.name(), before == null ? "made" : "changed", book.holders(role.name())));
            }
        }
        List<String> names = text.stream().map(Role::name).toList();
        for (StoredRole stored : book.storedRoles()) {
            if (workspace.equals(stored.workspace())
                    && !names.contains(stored.role().name())) {
                AccessRules.checkMayGive(stored.role().holdings(), by);
                changes.add(new RoleChange(
                        stored.role().name(),
                        "removed",
                        book.holders(stored.role().name())));
            }
        }
        if (!changes.isEmpty() && !by.holds(ServicePrivilege.GIVE_ACCESS)) {
            throw DeskPrivileges.missing(
                    ServicePrivilege.GIVE_ACCESS,
                    by,
                    "The roles in workspace.yaml differ from those that are live ("
                            + String.join(
                                    ", ", changes.stream().map(RoleChange::name).toList()) + "), and changing them");
        }
        return changes;
    }

    /** Makes a workspace's roles those of its text. */
    public void takeRoles(String workspace, List<Role> text, List<RoleChange> changes, Visitor by) {
        if (changes.isEmpty()) {
            return;
        }
        List<String> removed = changes.stream()
                .filter(change -> change.outcome().equals("removed"))
                .map(RoleChange::name)
                .toList();
        List<String> told = changes.stream()
                .map(change -> change.name() + " " + change.outcome())
                .toList();
        List<Role> before = access.now().storedRoles().stream()
                .filter(stored -> workspace.equals(stored.workspace()))
                .map(StoredRole::role)
                .toList();
        AuditEntry entry = entry(by, "publish-roles", workspace, String.join(", ", told))
                .changing(States.of(before), States.of(text));
        access.change(records -> records.takeRoles(workspace, text, removed, entry));
    }

    /** Makes a person, or changes their name, roles, and whether they may sign in. */
    public void putPerson(String name, String fullName, List<String> roles, boolean disabled, Visitor by)
            throws Refusal {
        if (!isPersonsName(name)) {
            throw AccessRules.unfit(
                    "A person's name is lower-case letters, digits, dots, hyphens, '_' and '@', as in 'mara.holt', and not 'administrator'.");
        }
        if (fullName.isBlank()) {
            throw AccessRules.unfit("A person needs a full name.");
        }
        AccessRules.checkLength("fullName", fullName, AccessRules.LONGEST_NAME);
        Person before = access.now().person(name);
        if (before != null
                && before.provider() != null
                && !before.roles().equals(roles.stream().sorted().toList())) {
            throw AccessRules.conflict("The roles of '" + name + "' come from " + before.provider()
                    + " with each sign-in; change them there.");
        }
        AccessRules.checkRoles(access.now(), roles, before == null ? List.of() : before.roles(), by);
        if (before != null && before.disabled() != disabled) {
            AccessRules.checkMayGive(access.now().holdings(before.roles()), by);
        }
        Instant now = clock.instant();
        Person person = new Person(
                name,
                fullName.strip(),
                null,
                null,
                0,
                disabled,
                now,
                null,
                null,
                before == null ? null : before.team(),
                roles.stream().distinct().toList());
        String change = "roles " + roles + (disabled ? ", may not sign in" : "")
                + (before == null
                        ? ""
                        : "; before: roles " + before.roles() + (before.disabled() ? ", may not sign in" : ""));
        AuditEntry entry = entry(by, "set-person", name, change).changing(States.of(before), States.of(person));
        access.change(records -> records.put(person, entry));
    }

    /** Removes a person; their sessions end. */
    public void removePerson(String name, Visitor by) throws Refusal {
        Person person = knownPerson(name);
        AccessRules.checkMayGive(access.now().holdings(person.roles()), by);
        access.changed(records ->
                records.removePerson(name, entry(by, "remove-person", name, "").changing(States.of(person), null)));
    }

    /** Takes a person's second factor away, because the authenticator is lost; their sessions end. */
    public void removeFactor(String name, Visitor by) throws Refusal {
        AccessRules.checkMayGive(access.now().holdings(knownPerson(name).roles()), by);
        access.change(records -> records.factor(name, null, null, entry(by, "remove-factor", name, "")));
    }

    /** Checks that somebody may let a person choose a password, which is as good as signing in for them. */
    public void checkMayInvite(String name, Visitor by) throws Refusal {
        Person person = knownPerson(name);
        if (person.provider() != null) {
            throw AccessRules.conflict(
                    "'" + name + "' signs in with " + person.provider() + " and has no password here.");
        }
        AccessRules.checkMayGive(access.now().holdings(person.roles()), by);
    }

    private Person knownPerson(String name) throws Refusal {
        Person person = access.now().person(name);
        if (person == null) {
            throw AccessRules.unknown(
                    "person",
                    name,
                    access.now().people().stream().map(Person::name).toList());
        }
        return person;
    }

    private @Nullable StoredRole stored(String name) {
        return access.now().storedRoles().stream()
                .filter(stored -> stored.role().name().equals(name))
                .findFirst()
                .orElse(null);
    }

    private AuditEntry entry(Visitor by, String action, String subject, String detail) {
        return AccessRules.entry(clock.instant(), by, action, subject, detail);
    }
}
