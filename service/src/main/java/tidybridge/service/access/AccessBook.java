package tidybridge.service.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.Role;
import tidybridge.records.AccessState;
import tidybridge.records.ClientApplication;
import tidybridge.records.Person;
import tidybridge.records.Session;
import tidybridge.records.StoredRole;

/** Who may what at one moment, as one immutable whole: a call is decided by reading it, without a database. */
public final class AccessBook {

    private static final int MOST_SHOWN = 10_000;

    private final AccessState state;
    private final Map<String, Role> roles = new LinkedHashMap<>();
    private final Map<String, Person> people = new HashMap<>();
    private final Map<String, ClientApplication> clients = new HashMap<>();
    private final Map<String, Known> byId = new HashMap<>();
    private final Map<String, Shown> bySubject = new HashMap<>();
    private final SigningKeys keys;

    /** What was shown and is valid by this book; dropped with it. */
    private final Map<String, Shown> shown = new ConcurrentHashMap<>();

    /**
     * A secret that was given out, and who shows who they are with it.
     *
     * @param hash of the whole secret
     * @param endsAt from when on it is no longer valid
     * @param addresses where it may be shown from
     * @param session null for a client application's credential
     */
    record Known(
            Identity identity,
            byte[] hash,
            Instant endsAt,
            AddressList addresses,
            @Nullable Session session) {}

    AccessBook(AccessState state) {
        this.state = state;
        this.keys = new SigningKeys(state.signingKeys());
        Role.BUILT_IN.forEach(role -> roles.put(role.name(), role));
        state.roles().forEach(stored -> roles.put(stored.role().name(), stored.role()));
        for (Person person : state.people()) {
            people.put(person.name(), person);
        }
        for (ClientApplication client : state.clients()) {
            clients.put(client.name(), client);
            if (!client.disabled()) {
                Identity identity = identity(client.name(), client.name(), client.roles());
                AddressList addresses = AddressList.of(client.addresses());
                client.subjects().stream()
                        .flatMap(subject -> Certificates.canonical(subject).stream())
                        .forEach(subject ->
                                bySubject.put(subject, new Shown(identity, null, null, addresses, Long.MAX_VALUE)));
                client.credentials()
                        .forEach(credential -> byId.put(
                                credential.id(),
                                new Known(
                                        identity,
                                        HexFormat.of().parseHex(credential.secretHash()),
                                        credential.endsAt() == null ? Instant.MAX : credential.endsAt(),
                                        addresses,
                                        null)));
            }
        }
        state.sessions().forEach(this::add);
    }

    private void add(Session session) {
        Identity identity = identity(session);
        if (identity != null) {
            byId.put(
                    session.id(),
                    new Known(
                            identity,
                            HexFormat.of().parseHex(session.secretHash()),
                            session.endsAt(),
                            AddressList.EVERYWHERE,
                            session));
        }
    }

    private @Nullable Identity identity(Session session) {
        if (session.person() == null) {
            return Identity.ADMINISTRATOR;
        }
        Person person = people.get(session.person());
        return person == null || person.disabled() ? null : identity(person.name(), null, person.roles());
    }

    private Identity identity(String name, @Nullable String client, List<String> given) {
        List<String> known = given.stream().filter(roles::containsKey).toList();
        return new Identity(name, client, known, holdings(known));
    }

    /** What some roles come to together; one that is not known holds nothing. */
    public Holdings holdings(Collection<String> names) {
        List<String> all = new ArrayList<>();
        for (String name : names) {
            Role role = roles.get(name);
            if (role != null) {
                all.addAll(role.holds());
            }
        }
        return Holdings.of(all);
    }

    /** The number of the change it was read after. */
    long number() {
        return state.number();
    }

    /** By the id of a secret; null for one that is unknown or revoked. */
    @Nullable
    Known find(String id) {
        return byId.get(id);
    }

    /**
     * Whom a certificate is for.
     *
     * @param subject in its canonical form
     * @return null for one that is for nobody here
     */
    @Nullable
    Shown bySubject(String subject) {
        return bySubject.get(subject);
    }

    /** What is known of a value of {@code Authorization} that was found valid before; null when it must be looked at. */
    @Nullable
    Shown shown(String field) {
        return shown.get(field);
    }

    /** Remembers a value that is valid, for a bounded number of them. */
    void remember(String field, Shown valid) {
        if (shown.size() < MOST_SHOWN) {
            shown.put(field, valid);
        }
    }

    /** True for a token that was revoked before its time. */
    boolean isRevoked(String token) {
        return state.revokedTokens().contains(token);
    }

    /** What access tokens are signed with. */
    public SigningKeys keys() {
        return keys;
    }

    /** Every role there is, the built-in ones first. */
    public Collection<Role> roles() {
        return roles.values();
    }

    /** Null for a role that is not known. */
    public @Nullable Role role(String name) {
        return roles.get(name);
    }

    /** The roles that are kept, in the order of the alphabet. */
    public List<StoredRole> storedRoles() {
        return state.roles();
    }

    /** In the order of the alphabet. */
    public List<Person> people() {
        return state.people();
    }

    /** Null for somebody unknown. */
    public @Nullable Person person(String name) {
        return people.get(name);
    }

    /** In the order of the alphabet. */
    public List<ClientApplication> clients() {
        return state.clients();
    }

    /** Null for an application that is not known. */
    public @Nullable ClientApplication client(String name) {
        return clients.get(name);
    }

    /** The sessions that have not ended, the oldest first. */
    public List<Session> sessions() {
        return state.sessions();
    }

    /** How many people and applications have a role. */
    public long holders(String role) {
        return state.people().stream()
                        .filter(person -> person.roles().contains(role))
                        .count()
                + state.clients().stream()
                        .filter(client -> client.roles().contains(role))
                        .count();
    }
}
