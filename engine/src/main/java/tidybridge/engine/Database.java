package tidybridge.engine;

import tidybridge.core.definition.SourceKind;
import tidybridge.core.sql.Dialect;

/**
 * Everything that one kind of database does in its own way. The rest of the engine asks this and names no database. An implementation
 * lives in a package of its own, is found by its {@link #kind}, keeps no state and is thread-safe.
 */
public interface Database {

    SourceKind kind();

    /** How its SQL is written. */
    Dialect dialect();

    /** How its sessions are opened, limited and ended. */
    Sessions sessions();

    /** What its errors mean. */
    Failures failures();

    /** What its catalog and its planner tell. */
    CatalogReader catalog();

    /** How its rows are looked at by people. */
    Inspection inspection();

    /** How its procedures hand values back. */
    Outputs outputs();
}
