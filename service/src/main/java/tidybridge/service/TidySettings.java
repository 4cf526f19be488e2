package tidybridge.service;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import tidybridge.engine.SourceSettings;
import tidybridge.records.RecordsSettings;

/**
 * Everything that differs between environments, read once at start: {@code tidy.home}, {@code tidy.records.*} and
 * {@code tidy.sources.NAME.*}. Secrets are named here, never written.
 *
 * @param home holds the administrator's token; {@code .tidy} unless set
 * @param records where the record store lies
 * @param sources the databases of this environment by name
 */
@ConfigurationProperties("tidy")
public record TidySettings(
        @Nullable Path home,
        @Nullable Database records,
        @Nullable Map<String, Database> sources) {

    private static final int DEFAULT_PORT = 3306;

    /**
     * A database.
     *
     * @param secretEnv the environment variable that holds the password
     * @param secretFile a file that holds the password, in place of {@code secretEnv}
     * @param tls whether transport security is required; it is unless the host is this machine
     * @param connections the most open at a time, for sources; 10 unless set
     */
    public record Database(
            @Nullable String host,
            @Nullable Integer port,
            @Nullable String schema,
            @Nullable String user,
            @Nullable String secretEnv,
            @Nullable Path secretFile,
            @Nullable Boolean tls,
            @Nullable Integer connections) {}

    /** Wrong settings; the message names all of them. */
    public static final class Unfit extends RuntimeException {
        Unfit(List<String> problems) {
            super("The settings cannot be used: " + String.join("; ", problems) + ".");
        }
    }

    /** Settings after all checks. */
    public record Checked(Path home, RecordsSettings records, List<SourceSettings> sources) {
        public Checked {
            sources = List.copyOf(sources);
        }
    }

    /**
     * Checks everything and reads the secrets.
     *
     * @throws Unfit with every problem in one message
     */
    public Checked checked() {
        List<String> problems = new ArrayList<>();
        RecordsSettings recordsSettings = records(problems);
        List<SourceSettings> sourceSettings = new ArrayList<>();
        Map<String, Database> all = sources == null ? Map.of() : new LinkedHashMap<>(sources);
        all.forEach((name, database) -> sourceSettings.add(source(name, database, problems)));
        if (!problems.isEmpty()) {
            throw new Unfit(problems);
        }
        return new Checked(home == null ? Path.of(".tidy") : home, recordsSettings, sourceSettings);
    }

    private RecordsSettings records(List<String> problems) {
        Database database = records == null ? new Database(null, null, null, null, null, null, null, null) : records;
        Reader reader = new Reader("tidy.records", database, problems);
        return new RecordsSettings(
                reader.host(), reader.port(), reader.schema(), reader.user(), reader.secret(), reader.tls());
    }

    private static SourceSettings source(String name, Database database, List<String> problems) {
        Reader reader = new Reader("tidy.sources." + name, database, problems);
        return new SourceSettings(
                name,
                reader.host(),
                reader.port(),
                reader.schema(),
                reader.user(),
                reader.secret(),
                reader.tls(),
                reader.connections(),
                SourceSettings.DEFAULT_PATIENCE);
    }

    /** Reads one database's settings and notes what is wrong with them. */
    private record Reader(String key, Database database, List<String> problems) {

        String host() {
            return required("host", database.host());
        }

        String schema() {
            return required("schema", database.schema());
        }

        String user() {
            return required("user", database.user());
        }

        int port() {
            return within("port", database.port(), DEFAULT_PORT, 65_535);
        }

        int connections() {
            return within("connections", database.connections(), SourceSettings.DEFAULT_CONNECTIONS, 1_000);
        }

        boolean tls() {
            Boolean tls = database.tls();
            String host = database.host();
            boolean here = host != null && (host.equals("localhost") || host.equals("::1") || host.startsWith("127."));
            return tls == null ? !here : tls;
        }

        String secret() {
            String variable = database.secretEnv();
            Path file = database.secretFile();
            if (variable != null) {
                String secret = System.getenv(variable);
                return secret != null
                        ? secret
                        : problem("the environment variable " + variable + " (" + key + ".secret-env) is not set");
            }
            if (file != null) {
                try {
                    return Files.readString(file).strip();
                } catch (IOException e) {
                    return problem("the file " + file + " (" + key + ".secret-file) cannot be read");
                }
            }
            return problem(key + ".secret-env or " + key + ".secret-file is missing");
        }

        private String required(String name, @Nullable String value) {
            return value == null || value.isBlank() ? problem(key + "." + name + " is missing") : value;
        }

        private int within(String name, @Nullable Integer value, int otherwise, int most) {
            if (value != null && (value < 1 || value > most)) {
                problem(key + "." + name + " must be from 1 to " + most);
            }
            return value == null ? otherwise : value;
        }

        private String problem(String sentence) {
            problems.add(sentence);
            return "";
        }
    }
}
