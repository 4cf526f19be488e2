package tidybridge.core.access;

import java.time.Duration;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Which pages of other origins may call a module from a browser (the Fetch standard's CORS protocol). Immutable and thread-safe.
 *
 * @param origins {@code https://quays.marrowby.example}, or {@link #ANY}
 * @param credentials true when such pages may let the browser show credentials by itself
 * @param expose header fields of answers that such pages may read, beside those of the service's own
 * @param keep how long a browser may keep what it was told
 */
public record CrossOrigin(Set<String> origins, boolean credentials, List<String> expose, Duration keep) {

    /** Pages of every origin. */
    public static final String ANY = "*";

    /** How long a browser keeps what it was told, when the text does not say. */
    public static final Duration USUALLY_KEPT = Duration.ofMinutes(10);

    /** The longest that may be said. */
    public static final Duration LONGEST_KEPT = Duration.ofHours(24);

    private static final Pattern ORIGIN =
            Pattern.compile("https?://([a-z0-9.-]{1,253}|\\[[0-9a-f:.]{2,45}])(:[1-9][0-9]{0,4})?");

    public CrossOrigin {
        origins = Set.copyOf(origins);
        expose = List.copyOf(expose);
    }

    /** True for an origin as browsers send it (RFC 6454, 6.1): scheme, host and port in lower case, nothing behind. */
    public static boolean isOrigin(String text) {
        return ORIGIN.matcher(text).matches();
    }

    /** True when pages of an origin may call. */
    public boolean allows(String origin) {
        return origins.contains(origin) || origins.contains(ANY) && isOrigin(origin);
    }
}
