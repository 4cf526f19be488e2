package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.time.Duration;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.access.Credentials;
import tidybridge.service.access.DeskOpen;
import tidybridge.service.access.ProviderSignIn;
import tidybridge.service.access.SessionCookies;
import tidybridge.service.access.SignIns;
import tidybridge.service.run.Refusal;

/** Signing in to the console with an outside provider. */
@RestController
@RequestMapping("/desk/provider")
class ProviderController {

    private static final String COOKIE = "tidy_provider";
    private static final String BACK = "/desk/provider/back";

    private final Optional<ProviderSignIn> provider;

    ProviderController(Optional<ProviderSignIn> provider) {
        this.provider = provider;
    }

    /**
     * What the console offers.
     *
     * @param name absent when there is no provider
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ProviderView(@Nullable String name) {}

    @GetMapping
    @DeskOpen(DeskOpen.To.EVERYBODY)
    ProviderView offered() {
        return new ProviderView(provider.map(ProviderSignIn::name).orElse(null));
    }

    /** Sends a browser to the provider. */
    @GetMapping("/begin")
    @DeskOpen(DeskOpen.To.EVERYBODY)
    ResponseEntity<Void> begin(HttpServletRequest http) {
        try {
            ProviderSignIn.Begun begun = known().begin(back(http));
            return to(begun.address())
                    .header(
                            HttpHeaders.SET_COOKIE,
                            SessionCookies.cookie(COOKIE, begun.cookie(), ProviderSignIn.PATIENCE, http, "Lax"))
                    .build();
        } catch (Refusal e) {
            return told(e);
        }
    }

    /** Where the provider sends the browser back to. Whatever goes wrong is told on the page that people sign in on. */
    @GetMapping("/back")
    @DeskOpen(DeskOpen.To.EVERYBODY)
    ResponseEntity<Void> back(
            @RequestParam(name = "code", required = false) @Nullable String code,
            @RequestParam(name = "state", required = false) @Nullable String state,
            HttpServletRequest http) {
        try {
            SignIns.Opened opened = known().finish(code, state, kept(http), back(http), http.getRemoteAddr());
            return to(URI.create("/modules"))
                    .header(
                            HttpHeaders.SET_COOKIE,
                            SessionCookies.cookie(
                                    Credentials.COOKIE, opened.secret(), SignIns.CONSOLE_LIFE, http, "Strict"))
                    .header(HttpHeaders.SET_COOKIE, SessionCookies.cookie(COOKIE, "", Duration.ZERO, http, "Lax"))
                    .build();
        } catch (Refusal e) {
            return told(e);
        }
    }

    private ProviderSignIn known() throws Refusal {
        return provider.orElseThrow(() -> new Refusal(
                ProblemKind.ROUTE_UNKNOWN, "This service knows no outside provider; sign in with a password."));
    }

    private static ResponseEntity.HeadersBuilder<?> to(URI address) {
        return ResponseEntity.status(HttpStatus.FOUND).location(address);
    }

    /** By its code, so that nobody can make the page say something else. */
    private static ResponseEntity<Void> told(Refusal e) {
        return to(URI.create("/sign-in?refused=" + e.problem().kind().label())).build();
    }

    private static URI back(HttpServletRequest http) {
        String url = http.getRequestURL().toString();
        return URI.create(url.substring(0, url.length() - http.getRequestURI().length()) + BACK);
    }

    private static @Nullable String kept(HttpServletRequest http) {
        return SessionCookies.read(http, COOKIE);
    }
}
