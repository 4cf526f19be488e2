package tidybridge.service.access;

import java.net.URI;
import java.net.URISyntaxException;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;
import tidybridge.core.notice.MailAddress;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AuditEntry;
import tidybridge.records.ClientApplication;
import tidybridge.records.Person;
import tidybridge.records.Team;
import tidybridge.records.TeamRecords;
import tidybridge.service.run.Refusal;

/**
 * Makes client teams, and lets their people do for themselves what needs nobody else: invite one another, make applications, and give those
 * credentials. What an application may is asked for with {@link RequestChanges}. Thread-safe.
 */
public final class TeamChanges {

    /** How long the link of an invitation works. */
    public static final Duration INVITATION_LIFE = Duration.ofDays(7);

    /** How many people a team has at most. */
    public static final int MOST_PEOPLE = 50;

    /** How many applications a team has at most. */
    public static final int MOST_CLIENTS = 20;

    private static final int MOST_INVITATIONS = 20;
    private static final int LONGEST_WEBHOOK = 1_000;
    private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9-]{0,62}");

    private final LiveAccess access;
    private final TeamRecords records;
    private final ClientChanges clients;
    private final SignIns signIns;
    private final Clock clock;
    private final SecureRandom random;

    public TeamChanges(
            LiveAccess access,
            TeamRecords records,
            ClientChanges clients,
            SignIns signIns,
            Clock clock,
            SecureRandom random) {
        this.access = access;
        this.records = records;
        this.clients = clients;
        this.signIns = signIns;
        this.clock = clock;
        this.random = random;
    }

    /** A team, after checking what is said of it. */
    Team checked(String name, String title, String contact) throws Refusal {
        if (!NAME.matcher(name).matches()) {
            throw AccessRules.unfit("A team's name is lower-case letters, digits and hyphens, as in 'harbour-apps'.");
        }
        checkTitle(title);
        checkContact(contact);
        return new Team(name, title.strip(), contact.strip(), null, null, clock.instant());
    }

    static void checkTitle(String title) throws Refusal {
        if (title.isBlank() || title.lines().count() > 1) {
            throw AccessRules.unfit("A team needs a 'title' of one line, as in 'Harbour apps'.");
        }
        AccessRules.checkLength("title", title, AccessRules.LONGEST_NAME);
    }

    static void checkContact(String contact) throws Refusal {
        if (!MailAddress.isOne(contact.strip())) {
            throw AccessRules.unfit(
                    "'contact' is the mail address that the team is told something at, as in 'apps@marrowby.example'.");
        }
    }

    /** Makes a team; nobody belongs to it until somebody is invited. */
    public Team add(String name, String title, String contact, Visitor by) throws Refusal {
        Team team = checked(name, title, contact);
        if (!access.changed(
                any -> records.add(team, entry(by, "add-team", name, team.title() + ", " + team.contact())))) {
            throw taken(name);
        }
        return team;
    }

    static Refusal taken(String name) {
        return AccessRules.conflict("There is a team '" + name + "' already; choose another name.");
    }

    /** Removes a team with its people, its applications and their credentials. */
    public void remove(String name, Visitor by) throws Refusal {
        Team team = known(name);
        for (ClientApplication client : access.now().clientsOf(team)) {
            AccessRules.checkMayGive(access.now().holdings(client), by);
        }
        String what = access.now().peopleOf(team).size() + " people, "
                + access.now().clientsOf(team).size() + " applications";
        access.changed(any -> records.remove(name, entry(by, "remove-team", name, what)));
    }

    /** The team of a name. */
    public Team known(String name) throws Refusal {
        Team team = access.now().team(name);
        if (team == null) {
            throw AccessRules.unknown(
                    "team", name, access.now().teams().stream().map(Team::name).toList());
        }
        return team;
    }

    /** Makes the code of a link with which somebody becomes one of a team's people. */
    public String invite(Team team, Visitor by) throws Refusal {
        Instant now = clock.instant();
        if (access.now().peopleOf(team).size() >= MOST_PEOPLE) {
            throw AccessRules.conflict("A team has at most " + MOST_PEOPLE + " people.");
        }
        if (records.invitations(team.name(), now) >= MOST_INVITATIONS) {
            throw AccessRules.conflict("A team has at most " + MOST_INVITATIONS
                    + " invitations at a time; each ends after " + INVITATION_LIFE.toDays() + " days.");
        }
        String code = IssuedSecret.unguessable(random);
        records.invite(
                IssuedSecret.hash(code),
                team.name(),
                now.plus(INVITATION_LIFE),
                entry(by, "invite-to-team", team.name(), ""));
        return code;
    }

    /** The team that the code of an invitation leads into. */
    public Team invitedInto(String code) throws Refusal {
        Optional<String> name = records.invitedInto(IssuedSecret.hash(code), clock.instant());
        if (name.isPresent() && access.now().team(name.get()) == null) {
            // it may have been made on another node just now
            access.catchUp();
        }
        Team team = name.isEmpty() ? null : access.now().team(name.get());
        if (team == null) {
            throw usedLink();
        }
        return team;
    }

    /**
     * Makes somebody one of a team's people, by the code of an invitation, which is used up, and signs them in.
     *
     * @throws Refusal when the code is used, the name is somebody's, or the password is weak; the code can be used still in the last two cases
     */
    public SignIns.Opened join(String code, String name, String fullName, String password, String address)
            throws Refusal {
        Team team = invitedInto(code);
        if (!AccessChanges.isPersonsName(name)) {
            throw AccessRules.unfit(
                    "Your name is lower-case letters, digits, dots, hyphens, underscores and @, as in 'mara.holt' or 'mara@marrowby.example'.");
        }
        if (fullName.isBlank()) {
            throw AccessRules.unfit("Your full name is missing.");
        }
        AccessRules.checkLength("full name", fullName, AccessRules.LONGEST_NAME);
        if (access.now().person(name) != null) {
            throw nameTaken(name);
        }
        if (access.now().peopleOf(team).size() >= MOST_PEOPLE) {
            throw AccessRules.conflict("The team has " + MOST_PEOPLE + " people already.");
        }
        Instant now = clock.instant();
        String hash = signIns.newHash(List.of(name, fullName), password);
        Person person =
                new Person(name, fullName.strip(), hash, null, 0, false, now, null, null, team.name(), List.of());
        AuditEntry entry = new AuditEntry(now, name, address, "join-team", team.name(), fullName.strip());
        if (!access.changed(any -> records.join(IssuedSecret.hash(code), team.name(), person, entry))) {
            if (access.now().person(name) != null) {
                throw nameTaken(name);
            }
            throw usedLink();
        }
        return signIns.opened(name, address);
    }

    /** For a link that is unknown, used or too old, on a page that is open to everybody. */
    public static Refusal usedLink() {
        return new Refusal(
                ProblemKind.ROW_UNKNOWN,
                "This link was used already or is too old; ask whoever gave it to you for a new one.");
    }

    private static Refusal nameTaken(String name) {
        return AccessRules.conflict("'" + name + "' is somebody else's name here; choose another one.");
    }

    /** Removes one of a team's people, who may be whoever asks. */
    public void removePerson(Team team, String name, Visitor by) throws Refusal {
        Person person = access.now().person(name);
        if (person == null || !team.name().equals(person.team())) {
            throw AccessRules.unknown("person of the team", name, List.of());
        }
        AccessRules.checkMayGive(access.now().holdings(person.roles()), by);
        access.changed(records -> records.removePerson(
                name, entry(by, "remove-person", name, "of " + team.name()).changing(States.of(person), null)));
    }

    /** Changes where a team is told something by mail. */
    public void mailTo(Team team, String contact, Visitor by) throws Refusal {
        checkContact(contact);
        tellAt(team, contact.strip(), team.webhook(), team.webhookKey(), by);
    }

    /**
     * Changes the address that is called when a team is told something.
     *
     * @param webhook empty for none
     * @param inside whether the address may be one without transport security, in a network that the settings name
     * @return what calls are signed with from now on, shown this once; empty without an address
     */
    public String callAt(Team team, String webhook, boolean inside, Visitor by) throws Refusal {
        String address = webhook.strip();
        if (address.isEmpty()) {
            tellAt(team, team.contact(), null, null, by);
            return "";
        }
        if (!isCallable(address, inside)) {
            throw AccessRules.unfit("The address that is called is one such as https://apps.marrowby.example/told"
                    + (inside ? "" : ", with https") + ", of at most " + LONGEST_WEBHOOK + " characters.");
        }
        String key = IssuedSecret.unguessable(random);
        tellAt(team, team.contact(), address, key, by);
        return key;
    }

    private static boolean isCallable(String address, boolean inside) {
        try {
            URI uri = new URI(address);
            return address.length() <= LONGEST_WEBHOOK
                    && ("https".equals(uri.getScheme()) || inside && "http".equals(uri.getScheme()))
                    && uri.getHost() != null
                    && uri.getRawUserInfo() == null
                    && uri.getRawFragment() == null;
        } catch (URISyntaxException e) {
            return false;
        }
    }

    private void tellAt(Team team, String contact, @Nullable String webhook, @Nullable String webhookKey, Visitor by) {
        Team changed = new Team(team.name(), team.title(), contact, webhook, webhookKey, team.createdAt());
        String detail = changed.contact() + (webhook == null ? "" : ", and by a webhook");
        access.changed(any -> records.tellAt(changed, entry(by, "tell-team-at", team.name(), detail)));
    }

    /** Makes an application that may nothing yet. */
    public void addClient(Team team, String name, String about, Visitor by) throws Refusal {
        if (!NAME.matcher(name).matches()) {
            throw AccessRules.unfit(
                    "An application's name is lower-case letters, digits and hyphens, as in 'quay-display'.");
        }
        AccessRules.checkLength("about", about, AccessRules.LONGEST_ABOUT);
        if (access.now().clientsOf(team).size() >= MOST_CLIENTS) {
            throw AccessRules.conflict(
                    "A team has at most " + MOST_CLIENTS + " applications; remove one that is not used.");
        }
        AuditEntry entry = entry(by, "set-client", name, "of the team " + team.name());
        if (!access.changed(any -> records.addClient(name, about.strip(), team, entry))) {
            throw AccessRules.conflict("There is an application '" + name + "' already; choose another name.");
        }
    }

    /** An application of a team's own; others are not told from those that do not exist. */
    public ClientApplication own(Team team, String name) throws Refusal {
        ClientApplication client = access.now().client(name);
        if (client == null || !team.name().equals(client.team())) {
            throw AccessRules.unknown(
                    "application of your team",
                    name,
                    access.now().clientsOf(team).stream()
                            .map(ClientApplication::name)
                            .toList());
        }
        return client;
    }

    /** Removes an application of a team's own. */
    public void removeClient(Team team, String name, Visitor by) throws Refusal {
        own(team, name);
        clients.remove(name, by);
    }

    /** Gives an application of a team's own another credential. */
    public ClientChanges.MadeCredential addCredential(
            Team team, String client, String name, @Nullable Instant endsAt, Visitor by) throws Refusal {
        own(team, client);
        return clients.addCredential(client, name, endsAt, by);
    }

    /** Revokes a credential of an application of a team's own. */
    public void revoke(Team team, String client, String name, Visitor by) throws Refusal {
        own(team, client);
        clients.revoke(client, name, by);
    }

    /** Takes back what an application was given beside its roles. */
    public void takeBack(String client, String privilege, Visitor by) throws Refusal {
        AccessRules.checkMayGive(Holdings.of(List.of(privilege)), by);
        boolean taken = access.changed(
                any -> records.takeBack(client, privilege, entry(by, "take-privilege-back", client, privilege)));
        if (!taken) {
            ClientApplication known = access.now().client(client);
            throw AccessRules.unknown(
                    "privilege given to '" + client + "'",
                    privilege,
                    known == null
                            ? List.of()
                            : known.given().stream()
                                    .map(given -> given.privilege())
                                    .toList());
        }
    }

    private AuditEntry entry(Visitor by, String action, String subject, String detail) {
        return AccessRules.entry(clock.instant(), by, action, subject, detail);
    }
}
