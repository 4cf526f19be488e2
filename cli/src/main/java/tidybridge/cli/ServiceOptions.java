package tidybridge.cli;

import java.net.URI;
import java.nio.file.Path;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;
import tidybridge.core.text.Nearest;

/** Which service a command speaks to. */
final class ServiceOptions {

    private static final String DEFAULT_PORT = "8480";

    @Option(
            names = "--at",
            paramLabel = "NAME",
            description = "A server that you are signed in at, by the name you gave it: './tidy sign-in --list'.")
    private @Nullable String name;

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

    @Option(
            names = "--trust",
            paramLabel = "FILE",
            description =
                    "The certificate (PEM) of whoever signed the server's, when this machine does not trust them by itself. A sign-in remembers it.")
    private @Nullable Path trust;

    /** The server's name as it was given; null for none. */
    @Nullable
    String name() {
        return name;
    }

    /** The token of a sign-in, or the administrator's when there is none, or when its folder is named. */
    Service open() {
        SignInFile file = SignInFile.usual();
        String given = name;
        if (given != null) {
            SignInFile.SignIn signIn = signIn(given, file);
            return new Service(address(URI.create(signIn.url())), null, signIn.token(), trusted(signIn));
        }
        URI base = address();
        Optional<SignInFile.SignIn> signIn = home == null ? file.at(base) : Optional.empty();
        return new Service(
                base,
                folder(),
                signIn.map(SignInFile.SignIn::token).orElse(null),
                signIn.map(this::trusted).orElse(trust));
    }

    /** A server that somebody is signed in at, by its name. */
    static Service named(String name) {
        SignInFile.SignIn signIn = signIn(name, SignInFile.usual());
        Path trust = signIn.trust().isEmpty() ? null : Path.of(signIn.trust());
        return new Service(address(URI.create(signIn.url())), null, signIn.token(), trust);
    }

    private static SignInFile.SignIn signIn(String name, SignInFile file) {
        return file.find(name)
                .orElseThrow(() -> CommandFailure.refused("You are not signed in at a server named '" + name + "'."
                        + Nearest.hint(name, file.read().keySet()) + " Type './tidy sign-in --service URL --at "
                        + ShellWord.of(name) + "'."));
    }

    /** The same without any token, to sign in with. */
    Service openToSignIn() {
        SignInFile.SignIn known = name == null || url != null
                ? null
                : SignInFile.usual().find(name).orElse(null);
        return known == null
                ? new Service(address(), null, null, trust)
                : new Service(address(URI.create(known.url())), null, null, trusted(known));
    }

    private @Nullable Path trusted(SignInFile.SignIn signIn) {
        return trust != null || signIn.trust().isEmpty() ? trust : Path.of(signIn.trust());
    }

    private Path folder() {
        String fromEnvironment = Surroundings.variable("TIDY_HOME");
        return home != null ? home : Path.of(fromEnvironment == null ? ".tidy" : fromEnvironment);
    }

    private URI address() {
        String fromEnvironment = Surroundings.variable("TIDY_URL");
        String port = Surroundings.variable("TIDY_PORT");
        return address(
                url != null
                        ? url
                        : URI.create(
                                fromEnvironment != null
                                        ? fromEnvironment
                                        : "http://127.0.0.1:" + (port == null ? DEFAULT_PORT : port)));
    }

    private static URI address(URI base) {
        if (base.getScheme() == null || !base.getScheme().startsWith("http") || base.getHost() == null) {
            throw CommandFailure.mistyped("The service's address must be an http URL such as http://127.0.0.1:8480.");
        }
        return base;
    }
}
