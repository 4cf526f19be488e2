package tidybridge.service.run;

import java.io.OutputStream;
import java.time.Duration;
import java.time.ZonedDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.PageEnd;
import tidybridge.core.answer.RowSink;
import tidybridge.core.bind.Asked;
import tidybridge.core.definition.RowFormat;
import tidybridge.engine.ConnectionShare;

/** Takes what a read tells, in the order in which it becomes known: first what stands beside the body, then the body's bytes. */
public interface ReadAnswer {

    /**
     * How rows are written, as their caller asks.
     *
     * @param offered the notations to choose from; empty for JSON alone
     * @throws Refusal when the caller takes none of them
     */
    Rendition rendition(List<RowFormat> offered, Asked asked) throws Refusal;

    /** What the body will be. */
    void mediaType(String mediaType);

    /** The body will be rows. */
    void rows(Rendition rendition);

    /** What is said of a page behind its rows, known before its last byte. */
    void ended(PageEnd end);

    /** The rows end before their end: what has left already is spoilt. */
    void cutOff(RowSink sink, RuntimeException cause);

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

    /**
     * Says that the body will be long, so that nobody waits for the whole.
     *
     * @param longest how long it may take to leave
     */
    void expectLong(Duration longest);

    /**
     * The answer will be all rows.
     *
     * @param most how many there may be
     * @param key the fields by whose values, in this order, a caller can begin again at any row; none when nobody can
     */
    void all(int most, List<String> key);

    /**
     * The address of another page of the same collection.
     *
     * @param parameter says the position, after or before
     * @param position null for the first page
     */
    String address(String parameter, @Nullable String position);

    /** Takes the body's bytes. */
    OutputStream body();
}
