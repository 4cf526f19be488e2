package tidybridge.service.reference;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Role;
import tidybridge.records.AccessRequest;
import tidybridge.records.ClientApplication;
import tidybridge.records.GivenPrivilege;
import tidybridge.records.Person;
import tidybridge.records.Team;
import tidybridge.service.access.AccessBook;

/**
 * A client team as its people see it.
 *
 * @param requests those that wait, then those that were answered last
 */
public record TeamView(Team team, List<Person> people, List<Application> applications, List<AccessRequest> requests) {

    private static final int MOST_ANSWERED = 20;

    public TeamView {
        people = List.copyOf(people);
        applications = List.copyOf(applications);
        requests = List.copyOf(requests);
    }

    static TeamView of(Team team, AccessBook book, List<AccessRequest> requests, Instant now) {
        List<AccessRequest> shown = new ArrayList<>();
        int answered = 0;
        for (AccessRequest request : requests) {
            if (request.state() == AccessRequest.State.WAITING || answered++ < MOST_ANSWERED) {
                shown.add(request);
            }
        }
        return new TeamView(
                team,
                book.peopleOf(team),
                book.clientsOf(team).stream()
                        .map(client -> Application.of(client, book, now))
                        .toList(),
                shown);
    }

    /**
     * An application.
     *
     * @param usedAt when one of its credentials was used last, a few seconds late; null for never
     */
    public record Application(
            ClientApplication client,
            List<Allowed> allowed,
            List<Key> keys,
            @Nullable Instant usedAt) {

        public Application {
            allowed = List.copyOf(allowed);
            keys = List.copyOf(keys);
        }

        static Application of(ClientApplication client, AccessBook book, Instant now) {
            List<Allowed> allowed = new ArrayList<>();
            for (String name : client.roles()) {
                Role role = book.role(name);
                if (role != null) {
                    role.holds().forEach(privilege -> allowed.add(new Allowed(privilege, "by the role " + name)));
                }
            }
            for (GivenPrivilege given : client.given()) {
                Instant end = given.endsAt();
                boolean held = given.isHeld(now);
                allowed.add(new Allowed(
                        given.privilege(),
                        end == null
                                ? "since " + Moment.day(given.givenAt())
                                : held
                                        ? "until the end of " + Moment.lastDay(end)
                                        : "ended with " + Moment.lastDay(end)));
            }
            return new Application(
                    client,
                    allowed,
                    client.credentials().stream().map(one -> Key.of(one, now)).toList(),
                    client.credentials().stream()
                            .map(ClientApplication.Credential::usedAt)
                            .filter(used -> used != null)
                            .max(Comparator.naturalOrder())
                            .orElse(null));
        }

        /** Where it has a page. */
        public String address() {
            return "/team/applications/" + client.name();
        }
    }

    /**
     * A privilege of an application.
     *
     * @param how it has it, and until when
     */
    public record Allowed(String privilege, String how) {}

    /** A credential, in words. */
    public record Key(String name, String made, String used, String ends) {

        static Key of(ClientApplication.Credential credential, Instant now) {
            Instant used = credential.usedAt();
            Instant end = credential.endsAt();
            return new Key(
                    credential.name(),
                    Moment.day(credential.createdAt()),
                    used == null ? "never" : Moment.minute(used),
                    end == null
                            ? "when it is revoked"
                            : (end.isAfter(now) ? "" : "ended: ") + "with " + Moment.lastDay(end));
        }
    }

    /** The word for the state of a request. */
    public static String state(AccessRequest request) {
        Instant end = request.endsAt();
        return switch (request.state()) {
            case WAITING -> "waits for an answer";
            case ALLOWED -> end == null ? "allowed" : "allowed until the end of " + Moment.lastDay(end);
            case REFUSED -> "refused";
            case WITHDRAWN -> "withdrawn";
        };
    }
}
