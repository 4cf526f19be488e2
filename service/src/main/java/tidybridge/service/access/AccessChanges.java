package tidybridge.service.access;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.Privilege;
import tidybridge.core.access.Quota;
import tidybridge.core.access.Role;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.records.AuditEntry;
import tidybridge.records.ClientApplication;
import tidybridge.records.Person;
import tidybridge.records.StoredRole;
import tidybridge.service.run.Refusal;

/**
 * Changes who may what, after checking what is asked and whether whoever asks may give it: nobody gives a privilege of the service's own, or
 * a role with one, without holding it. Each change is written down with who made it. Thread-safe.
 */
public final class AccessChanges {

    private static final Pattern CLIENT = Pattern.compile("[a-z][a-z0-9-]{0,62}");
    private static final Pattern PERSON = Pattern.compile("[a-z][a-z0-9._@-]{0,62}");
    private static final int LONGEST_NAME = 120;
    private static final int LONGEST_ABOUT = 500;
    private static final int LONGEST_CONTACT = 255;
    private static final int MOST_PRIVILEGES = 200;
    private static final int MOST_NETWORKS = 100;
    private static final int MOST_SUBJECTS = 10;

    /** Two that overlap are enough for a change; a few more for different machines. */
    private static final int MOST_CREDENTIALS = 10;

    private final LiveAccess access;
    private final Clock clock;
    private final SecureRandom random;

    public AccessChanges(LiveAccess access, Clock clock, SecureRandom random) {
        this.access = access;
        this.clock = clock;
        this.random = random;
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
        AccessRules.checkLength("about", role.about(), LONGEST_ABOUT);
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
        AccessRules.checkLength("fullName", fullName, LONGEST_NAME);
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

    /** Makes a client application, or changes everything but its credentials. */
    public void putClient(ClientApplication client, Visitor by) throws Refusal {
        if (!CLIENT.matcher(client.name()).matches()) {
            throw AccessRules.unfit(
                    "An application's name is lower-case letters, digits and hyphens, as in 'quay-display'.");
        }
        if (client.owner().isBlank() || client.contact().isBlank()) {
            throw AccessRules.unfit(
                    "An application needs an 'owner', and a 'contact' who is told when something is wrong with it.");
        }
        AccessRules.checkLength("owner", client.owner(), LONGEST_NAME);
        AccessRules.checkLength("contact", client.contact(), LONGEST_CONTACT);
        AccessRules.checkLength("about", client.about(), LONGEST_ABOUT);
        if (client.addresses().size() > MOST_NETWORKS
                || !client.addresses().stream().allMatch(AddressList::isNetwork)) {
            throw AccessRules.unfit("'addresses' are at most " + MOST_NETWORKS
                    + " networks in figures, such as 10.0.0.0/8, 2001:db8::/32 or 192.0.2.7.");
        }
        checkQuota(client.quota());
        if (client.subjects().size() > MOST_SUBJECTS
                || !client.subjects().stream().allMatch(Certificates::isSubject)) {
            throw AccessRules.unfit("'subjects' are at most " + MOST_SUBJECTS
                    + " names as certificates have them (RFC 4514), such as 'CN=quay-display,O=Marrowby Waterways'.");
        }
        for (ClientApplication other : access.now().clients()) {
            if (!other.name().equals(client.name())
                    && other.subjects().stream()
                            .anyMatch(subject ->
                                    client.subjects().stream().anyMatch(own -> Certificates.isSame(own, subject)))) {
                throw AccessRules.conflict(
                        "'" + other.name() + "' is known by a certificate of the same subject already.");
            }
        }
        ClientApplication before = access.now().client(client.name());
        AccessRules.checkRoles(access.now(), client.roles(), before == null ? List.of() : before.roles(), by);
        if (before != null && before.disabled() != client.disabled()) {
            AccessRules.checkMayGive(access.now().holdings(before.roles()), by);
        }
        String change = "roles " + client.roles() + (client.disabled() ? ", may not call" : "")
                + (client.addresses().isEmpty() ? "" : ", from " + client.addresses())
                + (before == null
                        ? ""
                        : "; before: roles " + before.roles() + (before.disabled() ? ", may not call" : ""));
        AuditEntry entry =
                entry(by, "set-client", client.name(), change).changing(States.of(before), States.of(client));
        access.change(records -> records.put(client, entry));
    }

    private static void checkQuota(@Nullable Quota quota) throws Refusal {
        if (quota == null) {
            return;
        }
        if (quota.calls() < 0
                || quota.calls() > Quota.MOST_CALLS
                || quota.concurrent() < 0
                || quota.concurrent() > Quota.MOST_CONCURRENT) {
            throw AccessRules.unfit("A quota has from 1 to " + Quota.MOST_CALLS + " calls, and from 1 to "
                    + Quota.MOST_CONCURRENT + " at a time.");
        }
        if (!Quota.isWindow(quota.per())) {
            throw AccessRules.unfit(
                    "A quota's window is in whole seconds that fit into a day without a rest, such as 10, 60, 900 or 3600.");
        }
    }

    /** Removes a client application; its credentials are no longer valid. */
    public void removeClient(String name, Visitor by) throws Refusal {
        ClientApplication known = knownClient(name);
        access.changed(records ->
                records.removeClient(name, entry(by, "remove-client", name, "").changing(States.of(known), null)));
    }

    /** A credential that was made; the key is shown this once. */
    public record MadeCredential(String key, ClientApplication.Credential credential) {}

    /**
     * Gives an application another credential.
     *
     * @param endsAt null for one that lasts until it is revoked
     */
    public MadeCredential addCredential(String client, String name, @Nullable Instant endsAt, Visitor by)
            throws Refusal {
        ClientApplication known = knownClient(client);
        if (!CLIENT.matcher(name).matches()) {
            throw AccessRules.unfit(
                    "A credential's name is lower-case letters, digits and hyphens, as in 'spring-2031'.");
        }
        Instant now = clock.instant();
        if (endsAt != null && !endsAt.isAfter(now)) {
            throw AccessRules.unfit("A credential must end in the future.");
        }
        if (known.credentials().size() >= MOST_CREDENTIALS) {
            throw AccessRules.conflict(
                    "An application has at most " + MOST_CREDENTIALS + " credentials; revoke one that is not used.");
        }
        AccessRules.checkMayGive(access.now().holdings(known.roles()), by);
        IssuedSecret secret = IssuedSecret.make(IssuedSecret.Kind.KEY, random);
        ClientApplication.Credential credential =
                new ClientApplication.Credential(secret.id(), name, secret.hash(), now, endsAt, null);
        String until = endsAt == null ? "" : " until " + endsAt;
        boolean added = access.changed(records -> records.add(
                client,
                credential,
                entry(by, "add-credential", client, name + until).changing(null, States.of(credential))));
        if (!added) {
            throw AccessRules.conflict(
                    "The application has a credential named '" + name + "' already; choose another name.");
        }
        return new MadeCredential(secret.text(), credential);
    }

    /** Revokes a credential. */
    public void revoke(String client, String name, Visitor by) throws Refusal {
        ClientApplication known = knownClient(client);
        String before = known.credentials().stream()
                .filter(credential -> credential.name().equals(name))
                .map(States::of)
                .findFirst()
                .orElse(null);
        AuditEntry entry = entry(by, "revoke-credential", client, name).changing(before, null);
        if (!access.changed(records -> records.revoke(client, name, entry))) {
            throw AccessRules.unknown(
                    "credential",
                    name,
                    known.credentials().stream()
                            .map(ClientApplication.Credential::name)
                            .toList());
        }
    }

    private ClientApplication knownClient(String name) throws Refusal {
        ClientApplication client = access.now().client(name);
        if (client == null) {
            throw AccessRules.unknown(
                    "client application",
                    name,
                    access.now().clients().stream().map(ClientApplication::name).toList());
        }
        return client;
    }

    private @Nullable StoredRole stored(String name) {
        return access.now().storedRoles().stream()
                .filter(stored -> stored.role().name().equals(name))
                .findFirst()
                .orElse(null);
    }

    private AuditEntry entry(Visitor by, String action, String subject, String detail) {
        return new AuditEntry(clock.instant(), by.who(), by.caller().address(), action, subject, detail);
    }
}
