package tidybridge.engine.mariadb;

import tidybridge.core.definition.SourceKind;
import tidybridge.core.sql.Dialect;
import tidybridge.engine.CatalogReader;
import tidybridge.engine.Database;
import tidybridge.engine.Failures;
import tidybridge.engine.Inspection;
import tidybridge.engine.Outputs;
import tidybridge.engine.Sessions;

/** MariaDB, found as a service by the engine. */
public final class MariaDb implements Database {

    private final Dialect dialect = Dialect.usual();
    private final Sessions sessions = new MariaDbSessions();
    private final Failures failures = new MariaDbFailures();
    private final CatalogReader catalog = new MariaDbCatalog();
    private final Inspection inspection = new MariaDbInspection(dialect);
    private final Outputs outputs = new MariaDbOutputs();

    @Override
    public SourceKind kind() {
        return SourceKind.MARIADB;
    }

    @Override
    public Dialect dialect() {
        return dialect;
    }

    @Override
    public Sessions sessions() {
        return sessions;
    }

    @Override
    public Failures failures() {
        return failures;
    }

    @Override
    public CatalogReader catalog() {
        return catalog;
    }

    @Override
    public Inspection inspection() {
        return inspection;
    }

    @Override
    public Outputs outputs() {
        return outputs;
    }
}
