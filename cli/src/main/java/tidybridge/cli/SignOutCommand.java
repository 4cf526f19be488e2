package tidybridge.cli;

import java.net.http.HttpResponse;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code ./tidy sign-out} */
@Command(
        name = "sign-out",
        description = "End the session at a server, and forget its token.",
        footer = {"", "Examples:", "  ./tidy sign-out", "  ./tidy sign-out --at production"})
final class SignOutCommand extends TidyCommand {

    private static final int GONE_ALREADY = 401;

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    @Override
    public Integer call() {
        SignInFile file = SignInFile.usual();
        String given = options.name();
        try (Service service = options.open()) {
            String url = SignInFile.plain(service.address());
            @Nullable
            String name = given != null
                    ? given
                    : file.read().entrySet().stream()
                            .filter(entry -> entry.getValue().url().equals(url))
                            .map(entry -> entry.getKey())
                            .findFirst()
                            .orElse(null);
            if (name == null) {
                throw CommandFailure.refused("You are not signed in at " + url + ".");
            }
            HttpResponse<byte[]> response = service.delete("/desk/sessions/current");
            if (response.statusCode() != GONE_ALREADY) {
                Service.expectSuccess(response);
            }
            file.put(name, null);
            out().println("Signed out at " + url + ".");
        }
        return 0;
    }
}
