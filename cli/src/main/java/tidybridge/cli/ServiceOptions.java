package tidybridge.cli;

import java.net.URI;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** Which service a command speaks to. */
final class ServiceOptions {

    private static final String DEFAULT_PORT = "8480";

    @Option(
            names = "--service",
            paramLabel = "URL",
            description = "Where the service listens; $TIDY_URL or http://127.0.0.1:8480 unless given.")
    private @Nullable URI url;

    @Option(
            names = "--home",
            paramLabel = "FOLDER",
            description = "The service's home, where the administrator's token lies; $TIDY_HOME or .tidy unless given.")
    private @Nullable Path home;

    Service open() {
        String fromEnvironment = System.getenv("TIDY_URL");
        String port = System.getenv("TIDY_PORT");
        String homeFromEnvironment = System.getenv("TIDY_HOME");
        URI base = url != null
                ? url
                : URI.create(
                        fromEnvironment != null
                                ? fromEnvironment
                                : "http://127.0.0.1:" + (port == null ? DEFAULT_PORT : port));
        if (base.getScheme() == null || !base.getScheme().startsWith("http") || base.getHost() == null) {
            throw CommandFailure.mistyped("The service's address must be an http URL such as http://127.0.0.1:8480.");
        }
        Path folder = home != null ? home : Path.of(homeFromEnvironment == null ? ".tidy" : homeFromEnvironment);
        return new Service(base, folder);
    }
}
