package tidybridge.engine;

import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.SourceDefinition;
import tidybridge.core.definition.SourceKind;
import tidybridge.core.definition.Transport;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;

/** Settings that reach the test database. */
final class TestSettings {

    private TestSettings() {}

    static SourceSettings over(int connections) {
        return with(
                "127.0.0.1",
                TestDatabase.server().port(),
                DemoDatabase.SOURCE_SCHEMA,
                TestDatabase.PASSWORD,
                connections);
    }

    /** Sessions that may change what the source's user may. */
    static SourceSettings writable() {
        SourceSettings read = over(6);
        return new SourceSettings(
                read.name(),
                read.kind(),
                read.about(),
                read.host(),
                read.port(),
                read.schema(),
                read.user(),
                read.secret(),
                read.transport(),
                null,
                false,
                read.connections(),
                read.patience(),
                read.timeout(),
                SourceDefinition.DEFAULT_ALL_TIMEOUT);
    }

    static SourceSettings with(String host, int port, String schema, String secret, int connections) {
        return new SourceSettings(
                "waterways",
                SourceKind.MARIADB,
                "",
                host,
                port,
                schema,
                DemoDatabase.SOURCE_USER,
                secret,
                Transport.PLAIN,
                null,
                true,
                connections,
                SourceDefinition.DEFAULT_PATIENCE,
                OperationDefinition.LONGEST_TIMEOUT,
                SourceDefinition.DEFAULT_ALL_TIMEOUT);
    }
}
