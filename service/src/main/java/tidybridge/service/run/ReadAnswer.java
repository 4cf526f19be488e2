package tidybridge.service.run;

import java.io.OutputStream;
import java.time.ZonedDateTime;
import org.jspecify.annotations.Nullable;
import tidybridge.engine.ConnectionShare;

/** Takes what a read tells, in the order in which it becomes known: first what stands beside the body, then the body's bytes. */
public interface ReadAnswer {

    /** What the body will be. */
    void mediaType(String mediaType);

    /**
     * The body will be a file.
     *
     * @param name as the row says it; null for none
     * @param inline true when browsers may show it in place
     */
    void file(String mediaType, @Nullable String name, boolean inline);

    /** A field that the row says beside the body; its value may hold anything. */
    void field(String name, String value);

    /** The entity tag of the row. */
    void tag(String tag);

    /** When the row was changed last. */
    void modified(ZonedDateTime time);

    /** An answer that cannot be held takes this turn before its first byte leaves. */
    void takesWhenLong(ConnectionShare.Turn turn);

    /** Says that the body will be long, so that nobody waits for the whole. */
    void expectLong();

    /** The address of the page behind a position, which the body tells as well. */
    String continued(String after);

    /** Takes the body's bytes. */
    OutputStream body();
}
