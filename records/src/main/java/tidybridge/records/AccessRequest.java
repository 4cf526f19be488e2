package tidybridge.records;

import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * What somebody asks for, and what became of it.
 *
 * @param kind what is asked for
 * @param team who asks; of one that wants to become a team null until that was allowed
 * @param title how the team is called
 * @param client the application that is to hold privileges; null for one that wants to become a team
 * @param module the module, {@code moorings/v1}, that they belong to; null likewise
 * @param askedBy a person's name, or the full name of somebody who has none here yet
 * @param contact where whoever asks is told what became of it
 * @param words what whoever decided said; null for nothing
 * @param endsAt until when it was allowed; null for always, and unless it was allowed
 */
public record AccessRequest(
        long id,
        Kind kind,
        @Nullable String team,
        String title,
        @Nullable String client,
        @Nullable String module,
        List<String> privileges,
        String reason,
        String askedBy,
        String contact,
        String address,
        Instant askedAt,
        State state,
        @Nullable String decidedBy,
        @Nullable Instant decidedAt,
        @Nullable String words,
        @Nullable Instant endsAt) {
    public AccessRequest {
        privileges = List.copyOf(privileges);
    }

    /** What can be asked for. */
    public enum Kind {
        /** To become a team. */
        TEAM,
        /** Privileges for an application. */
        PRIVILEGES;

        /** The word for it in the store and in outputs. */
        public String label() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What became of it. */
    public enum State {
        WAITING,
        ALLOWED,
        REFUSED,
        /** Whoever asked does not want it any more. */
        WITHDRAWN;

        /** The word for it in the store and in outputs. */
        public String label() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** One that waits, before it has a number. */
    public static AccessRequest ofTeam(
            String title, String reason, String askedBy, String contact, String address, Instant now) {
        return waiting(Kind.TEAM, null, title, null, null, List.of(), reason, askedBy, contact, address, now);
    }

    /** One that waits, before it has a number. */
    public static AccessRequest ofPrivileges(
            Team team,
            String client,
            String module,
            List<String> privileges,
            String reason,
            String askedBy,
            String address,
            Instant now) {
        return waiting(
                Kind.PRIVILEGES,
                team.name(),
                team.title(),
                client,
                module,
                privileges,
                reason,
                askedBy,
                team.contact(),
                address,
                now);
    }

    AccessRequest numbered(long number) {
        return new AccessRequest(
                number,
                kind,
                team,
                title,
                client,
                module,
                privileges,
                reason,
                askedBy,
                contact,
                address,
                askedAt,
                state,
                decidedBy,
                decidedAt,
                words,
                endsAt);
    }

    private static AccessRequest waiting(
            Kind kind,
            @Nullable String team,
            String title,
            @Nullable String client,
            @Nullable String module,
            List<String> privileges,
            String reason,
            String askedBy,
            String contact,
            String address,
            Instant now) {
        return new AccessRequest(
                0,
                kind,
                team,
                title,
                client,
                module,
                privileges,
                reason,
                askedBy,
                contact,
                address,
                now,
                State.WAITING,
                null,
                null,
                null,
                null);
    }
}
