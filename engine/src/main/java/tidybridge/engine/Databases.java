package tidybridge.engine;

import java.util.EnumMap;
import java.util.Map;
import java.util.ServiceLoader;
import tidybridge.core.definition.SourceKind;

/** The databases this engine knows: every {@link Database} that is named as a service on the class path. */
final class Databases {

    private static final Map<SourceKind, Database> KNOWN = new EnumMap<>(SourceKind.class);

    static {
        ServiceLoader.load(Database.class, Databases.class.getClassLoader())
                .forEach(database -> KNOWN.put(database.kind(), database));
    }

    private Databases() {}

    static Database of(SourceKind kind) {
        Database database = KNOWN.get(kind);
        if (database == null) {
            throw new IllegalStateException("no database of kind " + kind + " is on the class path");
        }
        return database;
    }
}
