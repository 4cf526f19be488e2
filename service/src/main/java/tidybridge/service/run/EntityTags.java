package tidybridge.service.run;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.HexFormat;
import org.jspecify.annotations.Nullable;
import tidybridge.core.plan.RowReply.TagPlan;

/** Strong entity tags (RFC 9110, 8.8.3). */
public final class EntityTags {

    private static final int PRINT_BYTES = 12;

    private EntityTags() {}

    /** The tag of a representation. */
    public static String of(TagPlan plan, byte[] bytes, int length) {
        return "\"" + print(bytes, length) + "-" + plan.print() + "\"";
    }

    /** The tag of a version; null when there is none. */
    static @Nullable String of(TagPlan plan, @Nullable String version) {
        if (version == null) {
            return null;
        }
        boolean plain = version.length() <= 40 && version.matches("[A-Za-z0-9.:_-]+");
        byte[] bytes = version.getBytes(StandardCharsets.UTF_8);
        return "\"" + (plain ? version : print(bytes, bytes.length)) + "-" + plan.print() + "\"";
    }

    private static String print(byte[] bytes, int length) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            digest.update(bytes, 0, length);
            return HexFormat.of().formatHex(Arrays.copyOf(digest.digest(), PRINT_BYTES));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }
}
