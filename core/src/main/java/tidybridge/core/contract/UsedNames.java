package tidybridge.core.contract;

import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;

/** What a statement names of its source: tables, views, routines and columns are among it, and words that are none of them too. */
public final class UsedNames {

    private UsedNames() {}

    /**
     * The names in lower case; {@code *} for all columns. A table that the statement takes from another schema is none of the source's own,
     * though it may be called like one.
     *
     * @param schema the source's own
     * @return nothing for a text that is no single statement
     */
    public static Set<String> of(SourceText text, Dialect dialect, String schema) {
        Statement statement;
        try {
            statement = Statement.scan(text, dialect);
        } catch (BrokenText | SeveralStatements e) {
            return Set.of();
        }
        Set<String> names = statement.names();
        Set<String> own = new HashSet<>();
        Set<String> foreign = new HashSet<>();
        for (Outline.TableUse table : statement.tables()) {
            String name = table.name();
            if (name != null) {
                boolean isOwn = table.schema() == null || table.schema().equalsIgnoreCase(schema);
                (isOwn ? own : foreign).add(name.toLowerCase(Locale.ROOT));
            }
        }
        foreign.removeAll(own);
        names.removeAll(foreign);
        return names;
    }
}
