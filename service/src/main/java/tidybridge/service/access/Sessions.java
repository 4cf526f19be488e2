package tidybridge.service.access;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Console sessions, and the one-time codes that open them from a printed link. Kept in memory; a restart ends them. Thread-safe. */
public final class Sessions {

    /** The cookie a browser carries. */
    public static final String COOKIE = "tidy_session";

    /** How long a session lasts after sign-in. */
    public static final Duration LIFE = Duration.ofHours(12);

    /** How long a printed link works. */
    public static final Duration CODE_LIFE = Duration.ofMinutes(15);

    private static final int BYTES = 24;

    private final Clock clock;
    private final SecureRandom random;
    private final Map<String, Instant> sessions = new ConcurrentHashMap<>();
    private final Map<String, Instant> codes = new ConcurrentHashMap<>();

    public Sessions(Clock clock, SecureRandom random) {
        this.clock = clock;
        this.random = random;
    }

    /** Opens a session; the returned text is its cookie's value. */
    public String open() {
        return put(sessions, LIFE);
    }

    /** Makes a code that opens one session. */
    public String code() {
        return put(codes, CODE_LIFE);
    }

    /** Uses up a code; false when it is unknown, used or too old. */
    public boolean redeem(String code) {
        Instant end = codes.remove(code);
        return end != null && clock.instant().isBefore(end);
    }

    public void close(HttpServletRequest request) {
        sessions.remove(cookie(request));
    }

    /** True when the request carries the cookie of an open session. */
    public boolean admits(HttpServletRequest request) {
        Instant end = sessions.get(cookie(request));
        return end != null && clock.instant().isBefore(end);
    }

    private String put(Map<String, Instant> map, Duration life) {
        Instant now = clock.instant();
        map.values().removeIf(now::isAfter);
        byte[] bytes = new byte[BYTES];
        random.nextBytes(bytes);
        String key = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        map.put(key, now.plus(life));
        return key;
    }

    private static String cookie(HttpServletRequest request) {
        Cookie[] cookies = request.getCookies();
        if (cookies != null) {
            for (Cookie cookie : cookies) {
                if (cookie.getName().equals(COOKIE)) {
                    return cookie.getValue();
                }
            }
        }
        return "";
    }
}
