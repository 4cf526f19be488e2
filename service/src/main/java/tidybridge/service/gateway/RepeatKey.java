package tidybridge.service.gateway;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.problem.InputError;
import tidybridge.core.reference.OwnParameters;

/** Reads the {@code Idempotency-Key} of a request, and tells which request it stands for. */
final class RepeatKey {

    private static final String FIELD = "Idempotency-Key";
    private static final int LONGEST_KEY = OwnParameters.LONGEST_KEY;

    /** They decide what a request does. */
    private static final List<String> CONDITIONS = List.of("If-Match", "If-None-Match", "If-Unmodified-Since");

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
    static String print(Inputs inputs, String path, List<ParameterDefinition> parameters) {
        byte[] body = inputs.body();
        String query = inputs.query();
        List<String> parts = new ArrayList<>();
        parts.add(path);
        parts.add(query == null ? "" : query);
        parts.add(body == null ? "" : new String(body, StandardCharsets.ISO_8859_1));
        for (ParameterDefinition parameter : parameters) {
            switch (parameter.in()) {
                case HEADER -> add(parts, parameter.wireName(), inputs.header(parameter.wireName()));
                case COOKIE -> add(parts, "cookie " + parameter.wireName(), inputs.cookie(parameter.wireName()));
                case PATH, QUERY, BODY, FORM, CALLER, REQUEST -> {}
            }
        }
        for (String condition : CONDITIONS) {
            add(parts, condition, inputs.header(condition));
        }
        return sha256(parts.toArray(String[]::new));
    }

    private static void add(List<String> parts, String name, @Nullable String value) {
        if (value != null) {
            parts.add(name);
            parts.add(value);
        }
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
