package tidybridge.service.access;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Privilege;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AccessRequest;
import tidybridge.records.AccessRequests;
import tidybridge.records.AuditEntry;
import tidybridge.records.Team;
import tidybridge.service.run.Refusal;

/**
 * Asking for access, and answering. Whoever answers requests gives the privileges that they hold themselves, and with {@code
 * tidy.give-access} everything. Thread-safe.
 */
public final class RequestChanges {

    private static final int LONGEST_REASON = 1_000;
    private static final int MOST_PRIVILEGES = 50;

    private final LiveAccess access;
    private final AccessRequests records;
    private final TeamChanges teams;
    private final Clock clock;
    private final SecureRandom random;

    public RequestChanges(
            LiveAccess access, AccessRequests records, TeamChanges teams, Clock clock, SecureRandom random) {
        this.access = access;
        this.records = records;
        this.teams = teams;
        this.clock = clock;
        this.random = random;
    }

    /**
     * Asks to become a team.
     *
     * @return the request as it is kept
     */
    public AccessRequest askForTeam(String title, String fullName, String contact, String reason, String address)
            throws Refusal {
        TeamChanges.checkTitle(title);
        TeamChanges.checkContact(contact);
        if (fullName.isBlank() || fullName.lines().count() > 1) {
            throw AccessRules.unfit("Your full name is missing.");
        }
        AccessRules.checkLength("full name", fullName, AccessRules.LONGEST_NAME);
        AccessRequest request = AccessRequest.ofTeam(
                title.strip(), reason(reason), fullName.strip(), contact.strip(), address, clock.instant());
        AuditEntry entry = new AuditEntry(
                request.askedAt(), "somebody unknown", address, "ask-for-team", request.title(), request.contact());
        return kept(request, entry);
    }

    /**
     * Asks for privileges for an application of a team's own.
     *
     * @param module that they belong to, {@code moorings/v1}, which whoever asks may read of
     * @param privileges those of the module that are asked for
     */
    public AccessRequest ask(
            Team team, String client, String module, List<String> privileges, String reason, Visitor by)
            throws Refusal {
        teams.own(team, client);
        if (privileges.isEmpty() || privileges.size() > MOST_PRIVILEGES) {
            throw AccessRules.unfit("Choose 1 to " + MOST_PRIVILEGES + " privileges.");
        }
        if (privileges.stream().anyMatch(Privilege::isOwn)) {
            throw AccessRules.unfit("Privileges of the service's own are not asked for here; ask an administrator.");
        }
        AccessRequest request = AccessRequest.ofPrivileges(
                team,
                client,
                module,
                privileges,
                reason(reason),
                by.who(),
                by.caller().address(),
                clock.instant());
        return kept(
                request,
                AccessRules.entry(
                        request.askedAt(),
                        by,
                        "ask-for-privileges",
                        client,
                        String.join(", ", privileges) + " of " + module));
    }

    private static String reason(String reason) throws Refusal {
        if (reason.isBlank()) {
            throw AccessRules.unfit("Say what it is needed for, in a sentence or two.");
        }
        AccessRules.checkLength("reason", reason, LONGEST_REASON);
        return reason.strip();
    }

    private AccessRequest kept(AccessRequest request, AuditEntry entry) throws Refusal {
        return switch (records.add(request, entry)) {
            case AccessRequests.Added.Kept kept -> kept.request();
            case AccessRequests.Added.TooManyWaiting ignored ->
                throw AccessRules.conflict(
                        request.kind() == AccessRequest.Kind.TEAM
                                ? "Too many others wait for an answer at the moment; ask the owner of the modules directly."
                                : "So many requests of your team wait for an answer that no other can be added; withdraw one that is not needed.");
            case AccessRequests.Added.TooOften ignored ->
                throw Refusal.until(
                        ProblemKind.TOO_MANY_TRIES,
                        "That was asked too often; wait for answers, and ask again tomorrow.",
                        Duration.ofDays(1));
        };
    }

    /** Takes back what was asked. */
    public void withdraw(Team team, long id, Visitor by) throws Refusal {
        AccessRequest request = find(id);
        if (!team.name().equals(request.team())) {
            throw unknown();
        }
        AuditEntry entry = AccessRules.entry(clock.instant(), by, "withdraw-request", subject(request), what(request));
        settle(records.withdraw(request, new AccessRequests.Decision(by.who(), null, null), entry), "");
    }

    private static void settle(AccessRequests.Answered answered, String team) throws Refusal {
        switch (answered) {
            case DONE -> {}
            case CLOSED ->
                throw AccessRules.conflict(
                        "It was answered or withdrawn meanwhile, or the application is gone; look at it again.");
            case NAME_TAKEN -> throw TeamChanges.taken(team);
        }
    }

    /** One by its number, for whoever may answer it. */
    public AccessRequest find(long id, Visitor by) throws Refusal {
        AccessRequest request = find(id);
        if (!mayAnswer(request, by)) {
            throw unknown();
        }
        return request;
    }

    private AccessRequest find(long id) throws Refusal {
        return records.find(id).orElseThrow(RequestChanges::unknown);
    }

    private static Refusal unknown() {
        return new Refusal(
                ProblemKind.ROW_UNKNOWN,
                "No request of that number is kept for you; './tidy request list' lists them.");
    }

    /** Those that somebody may answer: first those that wait. */
    public List<AccessRequest> answerable(Visitor by) {
        return records.listed().stream()
                .filter(request -> mayAnswer(request, by))
                .toList();
    }

    /** How many wait for somebody's answer. */
    public long waiting(Visitor by) {
        return answerable(by).stream()
                .filter(request -> request.state() == AccessRequest.State.WAITING)
                .count();
    }

    /** True when somebody may answer a request. */
    public static boolean mayAnswer(AccessRequest request, Visitor by) {
        boolean holdsAll = request.kind() == AccessRequest.Kind.PRIVILEGES
                && request.privileges().stream()
                        .allMatch(privilege -> by.caller().privileges().test(privilege));
        return by.holds(ServicePrivilege.ANSWER_REQUESTS) && (holdsAll || by.holds(ServicePrivilege.GIVE_ACCESS));
    }

    /**
     * Gives an application what was asked for.
     *
     * @param privileges those that are given; null for all
     * @param words for whoever asked; null for none
     * @param endsAt until when; null for always
     */
    public void allow(
            AccessRequest request,
            @Nullable List<String> privileges,
            @Nullable String words,
            @Nullable Instant endsAt,
            Visitor by)
            throws Refusal {
        if (request.kind() != AccessRequest.Kind.PRIVILEGES) {
            throw AccessRules.unfit("This asks for a team; say its 'team' name.");
        }
        List<String> given = privileges == null ? request.privileges() : privileges;
        if (given.isEmpty() || !request.privileges().containsAll(given)) {
            throw AccessRules.unfit("Only what was asked for can be given: " + String.join(", ", request.privileges())
                    + "; or refuse it.");
        }
        if (endsAt != null && !endsAt.isAfter(clock.instant())) {
            throw AccessRules.unfit("'until' must be in the future.");
        }
        checkWords(words);
        String until = endsAt == null ? "" : " until " + endsAt;
        AuditEntry entry = AccessRules.entry(
                clock.instant(), by, "allow-request", subject(request), String.join(", ", given) + until);
        AccessRequests.Decision decision = new AccessRequests.Decision(by.who(), words, endsAt);
        settle(access.changed(any -> records.allow(request, given, decision, entry)), "");
    }

    /**
     * Makes the team that was asked for.
     *
     * @param name of the team
     * @return the code of the link with which whoever asked joins it
     */
    public String allowTeam(AccessRequest request, String name, @Nullable String words, Visitor by) throws Refusal {
        if (request.kind() != AccessRequest.Kind.TEAM) {
            throw AccessRules.unfit("This asks for privileges, not for a team; leave 'team' out.");
        }
        checkWords(words);
        Team team = teams.checked(name, request.title(), request.contact());
        String code = IssuedSecret.unguessable(random);
        Instant now = clock.instant();
        AuditEntry entry = AccessRules.entry(now, by, "allow-request", name, "the team " + request.title());
        AccessRequests.Decision decision = new AccessRequests.Decision(by.who(), words, null);
        Instant invitationEndsAt = now.plus(TeamChanges.INVITATION_LIFE);
        settle(
                access.changed(any ->
                        records.allowTeam(request, team, IssuedSecret.hash(code), invitationEndsAt, decision, entry)),
                name);
        return code;
    }

    /**
     * Refuses what was asked.
     *
     * @param words for whoever asked
     */
    public void refuse(AccessRequest request, String words, Visitor by) throws Refusal {
        if (words.isBlank()) {
            throw AccessRules.unfit("Say why, for whoever asked, as 'words'.");
        }
        checkWords(words);
        AuditEntry entry = AccessRules.entry(clock.instant(), by, "refuse-request", subject(request), what(request));
        settle(records.refuse(request, new AccessRequests.Decision(by.who(), words, null), entry), "");
    }

    private static void checkWords(@Nullable String words) throws Refusal {
        AccessRules.checkLength("words", words, LONGEST_REASON);
    }

    private static String subject(AccessRequest request) {
        String client = request.client();
        return client == null ? request.title() : client;
    }

    private static String what(AccessRequest request) {
        return request.kind() == AccessRequest.Kind.TEAM
                ? "the team " + request.title()
                : String.join(", ", request.privileges());
    }

    /** A name for a team that is called like this; empty when nothing of it can stand in a name. */
    public static String nameFor(String title) {
        String name =
                title.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^[-0-9]+|-+$", "");
        return name.substring(0, Math.min(name.length(), 63));
    }
}
