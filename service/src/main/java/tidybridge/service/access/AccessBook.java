package tidybridge.service.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.Role;
import tidybridge.core.bind.Caller;
import tidybridge.records.AccessState;
import tidybridge.records.ClientApplication;
import tidybridge.records.GivenPrivilege;
import tidybridge.records.Person;
import tidybridge.records.Session;
import tidybridge.records.StoredRole;
import tidybridge.records.Team;

/** Who may what at one moment, as one immutable whole: a call is decided by reading it, without a database. */
public final class AccessBook {

    private static final int MOST_SHOWN = 10_000;

    private final AccessState state;
    private final Map<String, Role> roles = new LinkedHashMap<>();
    private final Map<String, Person> people = new HashMap<>();
    private final Map<String, ClientApplication> clients = new HashMap<>();
    private final Map<String, Team> teams = new LinkedHashMap<>();
    private final Map<String, Known> byId = new HashMap<>();
    private final Map<String, Shown> bySubject = new HashMap<>();
    private final SigningKeys keys;
    private final Instant at;
    private final Instant nextEnd;

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

    /** @param at what was given until a moment before it is not held any more */
    AccessBook(AccessState state, Instant at) {
        this.state = state;
        this.at = at;
        this.keys = new SigningKeys(state.signingKeys());
        this.nextEnd = state.clients().stream()
                .flatMap(client -> client.given().stream())
                .filter(given -> given.isHeld(at))
                .flatMap(given -> Stream.ofNullable(given.endsAt()))
                .min(Comparator.naturalOrder())
                .orElse(Instant.MAX);
        Role.BUILT_IN.forEach(role -> roles.put(role.name(), role));
        state.roles().forEach(stored -> roles.put(stored.role().name(), stored.role()));
        for (Person person : state.people()) {
            people.put(person.name(), person);
        }
        state.teams().forEach(team -> teams.put(team.name(), team));
        for (ClientApplication client : state.clients()) {
            clients.put(client.name(), client);
            if (!client.disabled()) {
                Identity identity = identity(client);
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
        return person == null || person.disabled() ? null : identity(person.name(), null, person.roles(), List.of());
    }

    private Identity identity(ClientApplication client) {
        return identity(client.name(), client.name(), client.roles(), given(client));
    }

    private Identity identity(String name, @Nullable String client, List<String> has, List<String> given) {
        List<String> known = has.stream().filter(roles::containsKey).toList();
        return new Identity(name, client, known, holdings(known, given));
    }

    /** What an application was given beside its roles and holds now. */
    public List<String> given(ClientApplication client) {
        return client.given().stream()
                .filter(given -> given.isHeld(at))
                .map(GivenPrivilege::privilege)
                .toList();
    }

    /** What an application may altogether. */
    public Holdings holdings(ClientApplication client) {
        return holdings(client.roles(), given(client));
    }

    /** The same as of a later moment, without asking the records. */
    AccessBook at(Instant moment) {
        return new AccessBook(state, moment);
    }

    /** True when something that was given until a moment has ended since. */
    boolean isPast(Instant now) {
        return !now.isBefore(nextEnd);
    }

    /** What some roles come to together; one that is not known holds nothing. */
    public Holdings holdings(Collection<String> names) {
        return holdings(names, List.of());
    }

    private Holdings holdings(Collection<String> names, List<String> given) {
        List<String> all = new ArrayList<>(given);
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

    /** In the order of the alphabet. */
    public List<Team> teams() {
        return state.teams();
    }

    /** Null for a team that is not known. */
    public @Nullable Team team(String name) {
        return teams.get(name);
    }

    /** The team that somebody belongs to; null for none. */
    public @Nullable Team teamOf(Visitor visitor) {
        String name = visitor.person();
        Person person = name == null ? null : people.get(name);
        return person == null || person.team() == null ? null : teams.get(person.team());
    }

    /** Whoever asks, with what the applications of their team may as well: not to call, but to be shown what those call. */
    public Caller asTeam(Visitor visitor) {
        Caller caller = visitor.caller();
        Team team = teamOf(visitor);
        if (team == null) {
            return caller;
        }
        List<String> all = new ArrayList<>(caller.privileges().written());
        clientsOf(team).stream()
                .filter(client -> !client.disabled())
                .forEach(client -> all.addAll(holdings(client).written()));
        return new Caller(
                caller.name(), caller.client(), caller.roles(), caller.address(), Holdings.of(all), caller.claims());
    }

    /** The applications of a team, in the order of the alphabet. */
    public List<ClientApplication> clientsOf(Team team) {
        return state.clients().stream()
                .filter(client -> team.name().equals(client.team()))
                .toList();
    }

    /** The people of a team, in the order of the alphabet. */
    public List<Person> peopleOf(Team team) {
        return state.people().stream()
                .filter(person -> team.name().equals(person.team()))
                .toList();
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
