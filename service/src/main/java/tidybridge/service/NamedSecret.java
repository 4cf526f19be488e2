package tidybridge.service;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A secret that the settings name, and never hold. */
final class NamedSecret {

    private NamedSecret() {}

    /** What an environment variable or a file holds; empty, with a problem, when there is none. */
    static String read(@Nullable String env, @Nullable Path file, String prefix, List<String> problems) {
        try {
            String secret = env != null
                    ? System.getenv(env)
                    : file != null ? Files.readString(file).strip() : null;
            if (secret != null) {
                return secret;
            }
            problems.add(prefix + "secret-env or " + prefix + "secret-file must lead to a secret");
        } catch (IOException e) {
            problems.add("the file " + file + " (" + prefix + "secret-file) cannot be read");
        }
        return "";
    }
}
