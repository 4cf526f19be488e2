package tidybridge.demo;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * The demo's people and client applications, made once. Their passwords and keys are new in every demo; they lie in files that only their
 * owner can read.
 */
final class DemoAccess {

    private static final String CREDENTIAL = "demo";

    private final Path keys;
    private final Function<String[], String> command;
    private final Secrets secrets;

    /**
     * Prepares to make them.
     *
     * @param keys where passwords and keys are kept, each in a file of its owner's name
     * @param command runs a command of the command line as the administrator, and hands back what it prints
     */
    DemoAccess(Path keys, Secrets secrets, Function<String[], String> command) {
        this.keys = keys;
        this.secrets = secrets;
        this.command = command;
    }

    /** Makes those that are missing. */
    void make() throws IOException {
        OwnerOnly.folder(keys);
        client("quay-display", "Harbour office", "quays@marrowby.example", "partner");
        client("lock-tablet", "Lock keepers", "locks@marrowby.example", "lock-keeper");
        client("toll-office", "Toll office", "tolls@marrowby.example", "toll-clerk");
        person("mara.holt", "Mara Holt", "integration-developer", "reviewer");
        person("joss.wren", "Joss Wren", "operator", "berth-master");
    }

    private void client(String name, String owner, String contact, String role) throws IOException {
        Path file = keys.resolve(name);
        if (Files.exists(file)) {
            return;
        }
        run("client", "set", name, "--owner", owner, "--contact", contact, "--give", role);
        try {
            run("client", "revoke", name, CREDENTIAL);
        } catch (DemoFailure e) {
            // there was none
        }
        write(file, run("client", "add-credential", name, CREDENTIAL));
    }

    private void person(String name, String fullName, String... roles) throws IOException {
        Path file = keys.resolve(name);
        if (Files.exists(file)) {
            return;
        }
        List<String> words = new ArrayList<>(List.of("person", "set", name, "--full-name", fullName));
        for (String role : roles) {
            words.addAll(List.of("--give", role));
        }
        run(words.toArray(String[]::new));
        String password = secrets.get("person-" + name);
        choose(URI.create(run("person", "link", name).strip()), password);
        write(file, password);
    }

    /** Opens a link as the person would, and chooses the password. */
    private static void choose(URI link, String password) throws IOException {
        URI address = link.resolve("/desk/sessions");
        String body = "{\"code\":\"" + link.getFragment() + "\",\"password\":\"" + password + "\"}";
        try (HttpClient http = HttpClient.newHttpClient()) {
            HttpResponse<String> response = http.send(
                    HttpRequest.newBuilder(address)
                            .header("Content-Type", "application/json")
                            .POST(HttpRequest.BodyPublishers.ofString(body))
                            .build(),
                    HttpResponse.BodyHandlers.ofString());
            if (response.statusCode() / 100 != 2) {
                throw new DemoFailure("A password could not be chosen: " + response.body());
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new DemoFailure("Interrupted while people were made.");
        }
    }

    private static void write(Path file, String secret) throws IOException {
        Files.writeString(OwnerOnly.file(file), secret.strip() + "\n");
    }

    private String run(String... words) {
        return command.apply(words);
    }
}
