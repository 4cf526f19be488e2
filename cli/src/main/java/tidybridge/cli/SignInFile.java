package tidybridge.cli;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * Where somebody is signed in: servers by the names they were given, each with its address and a token. The file is readable by its owner only;
 * {@code $TIDY_SIGN_INS}, or {@code tidy-bridge/sign-ins.json} where the system keeps what belongs to a person.
 */
final class SignInFile {

    private static final JsonMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private final Path file;

    private SignInFile(Path file) {
        this.file = file;
    }

    static SignInFile usual() {
        String given = Surroundings.variable("TIDY_SIGN_INS");
        if (given != null) {
            return new SignInFile(Path.of(given));
        }
        String base = Surroundings.variable("XDG_CONFIG_HOME");
        Path folder = base != null && !base.isBlank()
                ? Path.of(base)
                : Path.of(System.getProperty("user.home", ""), ".config");
        return new SignInFile(folder.resolve("tidy-bridge").resolve("sign-ins.json"));
    }

    /**
     * A server that somebody is signed in at.
     *
     * @param who the name they signed in with
     * @param endsAt when they must sign in again, as the server said it
     * @param trust the file of whoever signed the server's certificate; empty when this machine trusts them by itself
     */
    record SignIn(String url, String token, String who, String endsAt, String trust) {}

    /** By their names; nothing when the file is not there. */
    Map<String, SignIn> read() {
        Map<String, SignIn> all = new LinkedHashMap<>();
        if (!Files.exists(file)) {
            return all;
        }
        try {
            for (Map.Entry<String, JsonNode> entry :
                    JSON.readTree(Files.readString(file)).path("servers").properties()) {
                JsonNode server = entry.getValue();
                all.put(
                        entry.getKey(),
                        new SignIn(
                                server.path("url").asString(),
                                server.path("token").asString(),
                                server.path("who").asString(),
                                server.path("endsAt").asString(),
                                server.path("trust").asString("")));
            }
            return all;
        } catch (IOException | JacksonException e) {
            throw CommandFailure.refused("The file " + file + " cannot be read; remove it, and sign in again.");
        }
    }

    Optional<SignIn> find(String name) {
        return Optional.ofNullable(read().get(name));
    }

    /** The one at an address, whatever it is called. */
    Optional<SignIn> at(URI address) {
        return read().values().stream()
                .filter(signIn -> signIn.url().equals(plain(address)))
                .findFirst();
    }

    /** An address without a slash at its end. */
    static String plain(URI address) {
        return address.toString().replaceFirst("/+$", "");
    }

    /**
     * Keeps a server, or forgets it.
     *
     * @param signIn null to forget it
     */
    void put(String name, @Nullable SignIn signIn) {
        Map<String, SignIn> all = read();
        if (signIn == null) {
            all.remove(name);
        } else {
            all.put(name, signIn);
        }
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            Path written = Files.createTempFile(
                    file.toAbsolutePath().getParent(),
                    "sign-ins",
                    ".json",
                    PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(written, JSON.writeValueAsString(Map.of("servers", all)));
            Files.move(written, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + file + " cannot be written.");
        }
    }
}
