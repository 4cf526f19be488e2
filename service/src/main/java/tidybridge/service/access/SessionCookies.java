package tidybridge.service.access;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseCookie;

/** What browsers keep of a session. */
public final class SessionCookies {

    /** What a browser keeps so that it is known as the person's own. */
    private static final String DEVICE = "tidy_device";

    private static final Duration DEVICE_LIFE = Duration.ofDays(180);

    private SessionCookies() {}

    /** The values of {@code Set-Cookie} for a session that was opened. */
    public static List<String> of(SignIns.Opened opened, SignIns signIns, HttpServletRequest request) {
        List<String> cookies = new ArrayList<>();
        cookies.add(cookie(Credentials.COOKIE, opened.secret(), SignIns.CONSOLE_LIFE, request, "Strict"));
        String person = opened.session().person();
        if (person != null) {
            cookies.add(cookie(DEVICE, signIns.device(person), DEVICE_LIFE, request, "Strict"));
        }
        return cookies;
    }

    /** The value of {@code Set-Cookie} for a session that has ended. */
    public static String ended(HttpServletRequest request) {
        return cookie(Credentials.COOKIE, "", Duration.ZERO, request, "Strict");
    }

    /** What a browser shows of an earlier sign-in; null for none. */
    public static @Nullable String device(HttpServletRequest request) {
        return read(request, DEVICE);
    }

    /** The value of a cookie; null for none. */
    public static @Nullable String read(HttpServletRequest request, String name) {
        Cookie[] cookies = request.getCookies();
        if (cookies != null) {
            for (Cookie cookie : cookies) {
                if (cookie.getName().equals(name)) {
                    return cookie.getValue();
                }
            }
        }
        return null;
    }

    /**
     * The value of {@code Set-Cookie}.
     *
     * @param site when a browser sends it along with requests that other pages make: {@code Strict} for never, {@code Lax} for links
     */
    public static String cookie(String name, String value, Duration life, HttpServletRequest request, String site) {
        return ResponseCookie.from(name, value)
                .httpOnly(true)
                .secure(request.isSecure())
                .sameSite(site)
                .path("/")
                .maxAge(life)
                .build()
                .toString();
    }
}
