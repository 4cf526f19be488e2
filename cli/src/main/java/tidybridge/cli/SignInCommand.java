package tidybridge.cli;

import java.io.BufferedReader;
import java.io.Console;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.URI;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy sign-in mara.holt} */
@Command(
        name = "sign-in",
        description = "Sign in at a server, once: later commands show the token that is kept in a file of your own.",
        footer = {
            "",
            "The password is asked for; without a terminal it is the first line of the standard input, and a second factor's code the second.",
            "",
            "Examples:",
            "  ./tidy sign-in mara.holt",
            "  ./tidy sign-in mara.holt --service https://bridge.marrowby.example --at production",
            "  ./tidy modules --at production"
        })
final class SignInCommand extends TidyCommand {

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Option(names = "--list", description = "List where you are signed in, and change nothing.")
    private boolean list;

    @Parameters(arity = "0..1", paramLabel = "NAME", description = "Who signs in; asked for unless given.")
    private @Nullable String who;

    private @Nullable BufferedReader input;

    @Override
    public Integer call() throws IOException {
        if (list) {
            list();
            return 0;
        }
        try (Service service = options.openToSignIn()) {
            refuseUnencrypted(service.address());
            String name = who == null ? ask("Name: ", false) : who;
            Map<String, Object> shown = new LinkedHashMap<>();
            shown.put("name", name);
            shown.put("password", ask("Password: ", true));
            shown.put("place", "command-line");
            HttpResponse<byte[]> response = service.open("/desk/sessions", shown);
            if (response.statusCode() == 401 && code(response).equals("factor-needed")) {
                shown.put("factor", ask("Code of your authenticator: ", false));
                response = service.open("/desk/sessions", shown);
            }
            keep(service, name, Service.json(Service.expectSuccess(response)));
        }
        return 0;
    }

    private static String code(HttpResponse<byte[]> response) {
        return Service.json(response).path("code").asString("");
    }

    private void keep(Service service, String name, JsonNode session) {
        String url = SignInFile.plain(service.address());
        String given = options.name();
        String server = given == null ? service.address().getAuthority() : given;
        SignInFile.usual()
                .put(
                        server,
                        new SignInFile.SignIn(
                                url,
                                session.path("token").asString(),
                                name,
                                session.path("endsAt").asString(),
                                service.trust()));
        out().println("Signed in at " + url + " as " + name + ", until "
                + Texts.moment(session.path("endsAt"), "") + " UTC."
                + (given == null ? "" : " Say --at " + ShellWord.of(given) + " to speak to it."));
    }

    private static void refuseUnencrypted(URI address) {
        if (address.getScheme().equals("http") && !Service.isThisMachine(address)) {
            throw CommandFailure.refused("The password would travel unencrypted to " + address
                    + "; sign in at an address that begins with https.");
        }
    }

    private String ask(String prompt, boolean secret) throws IOException {
        Console console = System.console();
        String answer;
        if (console != null && console.isTerminal()) {
            char[] typed = secret ? console.readPassword("%s", prompt) : null;
            answer = secret ? typed == null ? null : new String(typed) : console.readLine("%s", prompt);
        } else {
            if (input == null) {
                input = new BufferedReader(
                        new InputStreamReader(Surroundings.here().in(), StandardCharsets.UTF_8));
            }
            answer = input.readLine();
        }
        if (answer == null || answer.isEmpty()) {
            throw CommandFailure.mistyped(
                    "Nothing was given for '" + prompt.strip().replace(":", "") + "'.");
        }
        return answer;
    }

    private void list() {
        Map<String, SignInFile.SignIn> all = SignInFile.usual().read();
        List<List<String>> rows = new ArrayList<>();
        List<Map<String, String>> objects = new ArrayList<>();
        all.forEach((name, signIn) -> {
            rows.add(List.of(name, signIn.url(), signIn.who(), Texts.minute(signIn.endsAt())));
            objects.add(Map.of("name", name, "url", signIn.url(), "who", signIn.who(), "endsAt", signIn.endsAt()));
        });
        if (json.print(Service.tree(Map.of("servers", objects)), out())) {
            return;
        }
        if (rows.isEmpty()) {
            out().println("You are signed in nowhere; type './tidy sign-in NAME'.");
            return;
        }
        out().print(Table.draw(List.of("Name", "Address", "Signed in as", "Until"), SourceCommand.left(4), rows));
    }
}
