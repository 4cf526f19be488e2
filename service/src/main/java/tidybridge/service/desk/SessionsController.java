package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.access.Administrator;
import tidybridge.service.access.Sessions;

/** Signing in to the console, by the administrator's token or by the one-time code of a printed link. */
@RestController
@RequestMapping("/desk")
class SessionsController {

    private final Administrator administrator;
    private final Sessions sessions;

    SessionsController(Administrator administrator, Sessions sessions) {
        this.administrator = administrator;
        this.sessions = sessions;
    }

    record SignIn(@Nullable String token, @Nullable String code) {}

    record CodeView(String code, long validSeconds) {}

    @PostMapping("/sessions")
    ResponseEntity<Void> open(@RequestBody SignIn signIn) {
        String token = signIn.token();
        String code = signIn.code();
        boolean known = token != null && administrator.is(token.strip()) || code != null && sessions.redeem(code);
        if (!known) {
            throw new DeskRefusal(
                    ProblemKind.SIGN_IN_NEEDED,
                    code == null
                            ? "This is not the administrator's token; it lies in the service's home folder, in "
                                    + Administrator.FILE + "."
                            : "This link was used already or is too old; type './tidy console' for a new one.");
        }
        return withCookie(sessions.open(), Sessions.LIFE);
    }

    @DeleteMapping("/sessions/current")
    ResponseEntity<Void> close(HttpServletRequest request) {
        sessions.close(request);
        return withCookie("", Duration.ZERO);
    }

    @PostMapping("/sign-in-codes")
    CodeView code() {
        return new CodeView(sessions.code(), Sessions.CODE_LIFE.toSeconds());
    }

    private static ResponseEntity<Void> withCookie(String value, Duration life) {
        ResponseCookie cookie = ResponseCookie.from(Sessions.COOKIE, value)
                .httpOnly(true)
                .sameSite("Strict")
                .path("/")
                .maxAge(life)
                .build();
        return ResponseEntity.noContent()
                .header(HttpHeaders.SET_COOKIE, cookie.toString())
                .build();
    }
}
