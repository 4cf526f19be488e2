package tidybridge.service.access;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.Quota;
import tidybridge.records.AuditEntry;
import tidybridge.records.ClientApplication;
import tidybridge.service.run.Refusal;

/**
 * Changes client applications and their credentials, after checking what is asked and whether whoever asks may give it, as {@link AccessChanges}
 * does for roles and people. Thread-safe.
 */
public final class ClientChanges {

    private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9-]{0,62}");
    private static final int LONGEST_CONTACT = 255;
    private static final int MOST_NETWORKS = 100;
    private static final int MOST_SUBJECTS = 10;

    /** Two that overlap are enough for a change; a few more for different machines. */
    private static final int MOST_CREDENTIALS = 10;

    private final LiveAccess access;
    private final Clock clock;
    private final SecureRandom random;

    public ClientChanges(LiveAccess access, Clock clock, SecureRandom random) {
        this.access = access;
        this.clock = clock;
        this.random = random;
    }

    /** Makes a client application, or changes everything but its credentials. */
    public void put(ClientApplication client, Visitor by) throws Refusal {
        if (!NAME.matcher(client.name()).matches()) {
            throw AccessRules.unfit(
                    "An application's name is lower-case letters, digits and hyphens, as in 'quay-display'.");
        }
        if (client.owner().isBlank() || client.contact().isBlank()) {
            throw AccessRules.unfit(
                    "An application needs an 'owner', and a 'contact' who is told when something is wrong with it.");
        }
        AccessRules.checkLength("owner", client.owner(), AccessRules.LONGEST_NAME);
        AccessRules.checkLength("contact", client.contact(), LONGEST_CONTACT);
        AccessRules.checkLength("about", client.about(), AccessRules.LONGEST_ABOUT);
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
    public void remove(String name, Visitor by) throws Refusal {
        ClientApplication known = known(name);
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
        ClientApplication known = known(client);
        if (!NAME.matcher(name).matches()) {
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
        AccessRules.checkMayGive(access.now().holdings(known), by);
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
        ClientApplication known = known(client);
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

    private ClientApplication known(String name) throws Refusal {
        ClientApplication client = access.now().client(name);
        if (client == null) {
            throw AccessRules.unknown(
                    "client application",
                    name,
                    access.now().clients().stream().map(ClientApplication::name).toList());
        }
        return client;
    }

    private AuditEntry entry(Visitor by, String action, String subject, String detail) {
        return AccessRules.entry(clock.instant(), by, action, subject, detail);
    }
}
