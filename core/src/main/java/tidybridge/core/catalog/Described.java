package tidybridge.core.catalog;

import java.util.List;

/** What a source says about a statement without running it. */
public sealed interface Described {

    /** The statement can be prepared and answers with these fields. */
    record Fields(List<Field> fields) implements Described {
        public Fields {
            fields = List.copyOf(fields);
        }
    }

    /** The source cannot prepare the statement; the reason is the server's own, for the owner of the statement. */
    record Refused(String reason) implements Described {}

    /** Nobody was asked. */
    record Unknown() implements Described {}
}
