package tidybridge.records;

import java.time.Instant;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Something that is to be told to somebody outside.
 *
 * @param recipient a mail address, or the address that is called
 * @param team the team it is for; null for one that is for whoever runs the service, or owns a module
 * @param kind a word such as {@code access-asked}
 * @param content the text of a mail, or the body of a call
 * @param tries how often it was tried
 * @param nextAt when it is tried next; when it ended for one that does not wait
 * @param trouble why it could not be told the last time; null for no reason yet
 */
public record Notice(
        long id,
        Way way,
        String recipient,
        @Nullable String team,
        String kind,
        String subject,
        String content,
        Instant madeAt,
        State state,
        int tries,
        Instant nextAt,
        @Nullable String trouble) {

    /** How it is told. */
    public enum Way {
        MAIL,
        /** A signed call (RFC 9421). */
        WEBHOOK;

        /** The word for it in the store and in outputs. */
        public String label() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What became of it. */
    public enum State {
        WAITING,
        TOLD,
        /** It was tried for days, or can never be told. */
        GIVEN_UP;

        /** The word for it in the store and in outputs. */
        public String label() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    /** One that waits, before it has a number. */
    public static Notice waiting(
            Way way,
            String recipient,
            @Nullable String team,
            String kind,
            String subject,
            String content,
            Instant now) {
        return new Notice(0, way, recipient, team, kind, subject, content, now, State.WAITING, 0, now, null);
    }
}
