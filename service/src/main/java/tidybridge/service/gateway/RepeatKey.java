package tidybridge.service.gateway;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.Need;
import tidybridge.core.problem.InputError;

/** Reads the {@code Idempotency-Key} of a request, and tells which request it stands for. */
final class RepeatKey {

    private static final String FIELD = "Idempotency-Key";
    private static final int LONGEST_KEY = 255;

    private RepeatKey() {}

    /** The key's characters; null when none was sent. A structured field's quotes (RFC 8941) are no part of it. */
    static @Nullable String read(Inputs inputs, Need need) throws BadInput {
        String field = inputs.header(FIELD);
        if (field == null || field.isBlank()) {
            if (field != null || need == Need.REQUIRED) {
                throw bad("is required; send a new unique text with each request, and the same with its repetition");
            }
            return null;
        }
        String bare = field.strip();
        boolean quoted = bare.length() > 1 && bare.startsWith("\"") && bare.endsWith("\"");
        String key = quoted ? bare.substring(1, bare.length() - 1) : bare;
        if (key.isEmpty() || key.length() > LONGEST_KEY || !key.chars().allMatch(c -> c >= ' ' && c < 0x7f)) {
            throw bad("must be 1 to " + LONGEST_KEY + " visible ASCII characters");
        }
        return key;
    }

    private static BadInput bad(String clause) {
        return new BadInput(List.of(new InputError(FIELD, "header", "'" + FIELD + "' " + clause + ".")));
    }

    /** What tells this request from another that bears the same key. */
    static String print(Inputs inputs, String path) {
        byte[] body = inputs.body();
        String query = inputs.query();
        return sha256(
                path, query == null ? "" : query, body == null ? "" : new String(body, StandardCharsets.ISO_8859_1));
    }

    /** The key as it is kept: every operation and every caller has keys of their own. */
    static String scoped(String label, String who, String key) {
        return sha256(label, who, key);
    }

    private static String sha256(String... parts) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            for (String part : parts) {
                byte[] bytes = part.getBytes(StandardCharsets.UTF_8);
                digest.update((bytes.length + ":").getBytes(StandardCharsets.US_ASCII));
                digest.update(bytes);
            }
            return HexFormat.of().formatHex(digest.digest());
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }
}
