package tidybridge.service;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.SecretReference;
import tidybridge.core.definition.SourceDefinition;
import tidybridge.core.definition.SourceKind;
import tidybridge.core.definition.Transport;
import tidybridge.engine.SourceSettings;

/**
 * Turns what is said about a source into settings that can be used, and notes what is wrong or lacking.
 *
 * @param prefix what its settings are called, {@code tidy.sources.waterways}
 * @param base where relative paths start
 * @param problems takes a clause for each problem
 */
record SourceSettingsReader(SourceDefinition source, String prefix, Path base, List<String> problems) {

    /** The settings; to be used only when no problem was noted. */
    SourceSettings settings() {
        String host = required("host", source.host());
        String about = source.about();
        Transport transport = source.transport();
        Duration timeout = source.timeout();
        return new SourceSettings(
                source.name(),
                source.kind() == null ? SourceKind.MARIADB : source.kind(),
                about == null ? "" : about,
                host,
                within("port", source.port(), SourceDefinition.DEFAULT_PORT, 65_535),
                required("schema", source.schema()),
                required("user", source.user()),
                secret(source.secret()),
                transport == null ? usual(host) : transport,
                certificate(),
                source.readOnly() == null || source.readOnly(),
                within(
                        "connections",
                        source.connections(),
                        SourceDefinition.DEFAULT_CONNECTIONS,
                        SourceDefinition.MOST_CONNECTIONS),
                time("patience", source.patience(), SourceDefinition.DEFAULT_PATIENCE),
                time("timeout", timeout, OperationDefinition.LONGEST_TIMEOUT),
                time("all-timeout", source.allTimeout(), SourceDefinition.DEFAULT_ALL_TIMEOUT));
    }

    private static Transport usual(String host) {
        boolean here = host.equals("localhost") || host.equals("::1") || host.startsWith("127.");
        return here ? Transport.PLAIN : Transport.VERIFIED;
    }

    private @Nullable Path certificate() {
        String certificate = source.certificate();
        if (certificate == null) {
            return null;
        }
        Path file = base.resolve(certificate);
        if (!Files.isReadable(file)) {
            problem("the file " + file + " (" + key("certificate") + ") cannot be read");
        }
        return file;
    }

    private String secret(@Nullable SecretReference secret) {
        return switch (secret) {
            case null -> problem(key("secret-env") + " or " + key("secret-file") + " is missing");
            case SecretReference.Variable(String name) -> {
                String value = System.getenv(name);
                yield value != null
                        ? value
                        : problem("the environment variable " + name + " (" + key("secret-env") + ") is not set");
            }
            case SecretReference.File(String path) -> {
                Path file = base.resolve(path);
                try {
                    yield Files.readString(file).strip();
                } catch (IOException e) {
                    yield problem("the file " + file + " (" + key("secret-file") + ") cannot be read");
                }
            }
        };
    }

    private String required(String name, @Nullable String value) {
        return value == null || value.isBlank() ? problem(key(name) + " is missing") : value;
    }

    private int within(String name, @Nullable Integer value, int otherwise, int most) {
        if (value != null && (value < 1 || value > most)) {
            problem(key(name) + " must be from 1 to " + most);
        }
        return value == null ? otherwise : value;
    }

    private Duration time(String name, @Nullable Duration value, Duration otherwise) {
        if (value != null && (value.isNegative() || value.isZero())) {
            problem(key(name) + " must be above zero");
        }
        return value == null ? otherwise : value;
    }

    private String key(String name) {
        return prefix + "." + name;
    }

    private String problem(String sentence) {
        problems.add(sentence);
        return "";
    }
}
