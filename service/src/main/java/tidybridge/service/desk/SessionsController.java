package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonProperty;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.Session;
import tidybridge.records.SignInCodes;
import tidybridge.service.access.Administrator;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.DeskOpen;
import tidybridge.service.access.DeskPrivileges;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.SessionCookies;
import tidybridge.service.access.SignIns;
import tidybridge.service.access.Visitor;
import tidybridge.service.desk.AccessViews.SessionView;
import tidybridge.service.desk.AccessViews.SessionViews;
import tidybridge.service.run.Refusal;

/** Signing in and out: by name and password, by the code of a link, or by the administrator's token. */
@RestController
@RequestMapping("/desk")
class SessionsController {

    private final Administrator administrator;
    private final SignIns signIns;
    private final LiveAccess access;

    SessionsController(Administrator administrator, SignIns signIns, LiveAccess access) {
        this.administrator = administrator;
        this.signIns = signIns;
        this.access = access;
    }

    /** Where somebody signs in. */
    enum Place {
        @JsonProperty("console")
        CONSOLE,
        @JsonProperty("command-line")
        COMMAND_LINE
    }

    /** What somebody shows: a token, a code with a password where the link is for choosing one, or name and password. */
    record SignIn(
            @Nullable String token,
            @Nullable String code,
            @Nullable String name,
            @Nullable String password,
            @Nullable String factor,
            @Nullable Place place) {}

    /**
     * The code of a link.
     *
     * @param path where the link leads, below the service's address
     */
    record CodeView(String code, String path, long validSeconds) {

        static CodeView of(String code, boolean ofTeam, Duration life) {
            return new CodeView(code, (ofTeam ? "/team/password?code=" : "/sign-in#") + code, life.toSeconds());
        }
    }

    record CodeRequest(@Nullable String code) {}

    /**
     * What a link is for.
     *
     * @param person who chooses a password with it; absent for one that signs the administrator in
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record CodeLookView(@Nullable String person) {}

    /** A session on a command line. */
    record TokenView(String token, String name, Instant endsAt) {}

    @PostMapping("/sessions")
    @DeskOpen(DeskOpen.To.EVERYBODY)
    ResponseEntity<?> open(@RequestBody SignIn signIn, HttpServletRequest http) throws Refusal {
        SignIns.Opened opened = opened(signIn, http);
        Session session = opened.session();
        if (session.kind() == Session.Kind.COMMAND_LINE) {
            String name = session.person() == null ? "administrator" : session.person();
            return ResponseEntity.ok(new TokenView(opened.secret(), name, session.endsAt()));
        }
        ResponseEntity.HeadersBuilder<?> answer = ResponseEntity.noContent();
        SessionCookies.of(opened, signIns, http).forEach(cookie -> answer.header(HttpHeaders.SET_COOKIE, cookie));
        return answer.build();
    }

    private SignIns.Opened opened(SignIn signIn, HttpServletRequest http) throws Refusal {
        String address = http.getRemoteAddr();
        Session.Kind kind = signIn.place() == Place.COMMAND_LINE ? Session.Kind.COMMAND_LINE : Session.Kind.CONSOLE;
        if (signIn.code() != null) {
            return signIns.byCode(signIn.code(), signIn.password(), address);
        }
        if (signIn.name() != null) {
            String password = signIn.password() == null ? "" : signIn.password();
            return signIns.byPassword(
                    new SignIns.Shown(signIn.name(), password, signIn.factor(), SessionCookies.device(http), address),
                    kind);
        }
        if (signIn.token() == null || !administrator.is(signIn.token().strip())) {
            throw new Refusal(
                    ProblemKind.SIGN_IN_NEEDED,
                    "This is not the administrator's token; it lies in the service's home folder, in "
                            + Administrator.FILE + ".");
        }
        return signIns.byAdministrator(kind, address);
    }

    /** Somebody's own sessions, or those of everybody. */
    @GetMapping("/sessions")
    @DeskOpen(DeskOpen.To.SIGNED_IN)
    SessionViews all(
            @RequestParam(name = "everybody", defaultValue = "false") boolean everybody, HttpServletRequest http)
            throws Refusal {
        Visitor visitor = Visitor.of(http);
        if (everybody && !visitor.holds(ServicePrivilege.GIVE_ACCESS)) {
            throw DeskPrivileges.missing(ServicePrivilege.GIVE_ACCESS, visitor);
        }
        return new SessionViews(access.now().sessions().stream()
                .filter(session -> everybody || isOwn(session, visitor))
                .map(session -> SessionView.of(session, visitor.session()))
                .toList());
    }

    private static boolean isOwn(Session session, Visitor visitor) {
        return session.person() == null
                ? visitor.person() == null && visitor.caller().privileges() == Holdings.ALL
                : session.person().equals(visitor.person());
    }

    @DeleteMapping("/sessions/{id}")
    @DeskOpen(DeskOpen.To.SIGNED_IN)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void end(@PathVariable("id") String id, HttpServletRequest http) throws Refusal {
        Visitor visitor = Visitor.of(http);
        List<Session> found = access.now().sessions().stream()
                .filter(session -> session.id().equals(id))
                .filter(session -> isOwn(session, visitor) || visitor.holds(ServicePrivilege.GIVE_ACCESS))
                .toList();
        if (found.isEmpty() || !signIns.end(found.getFirst(), visitor)) {
            throw new Refusal(ProblemKind.ROW_UNKNOWN, "No session of that name is open.");
        }
    }

    @DeleteMapping("/sessions/current")
    @DeskOpen(DeskOpen.To.SIGNED_IN)
    ResponseEntity<Void> close(HttpServletRequest http) {
        Visitor visitor = Visitor.of(http);
        Session session = visitor.session();
        if (session != null) {
            signIns.end(session, visitor);
        }
        return ResponseEntity.noContent()
                .header(HttpHeaders.SET_COOKIE, SessionCookies.ended(http))
                .build();
    }

    /** A link that signs the administrator in. */
    @PostMapping("/sign-in-codes")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    CodeView code(HttpServletRequest http) throws Refusal {
        Visitor visitor = Visitor.of(http);
        if (visitor.caller().privileges() != Holdings.ALL) {
            throw new Refusal(ProblemKind.NOT_ALLOWED, "Only an administrator makes a link that signs one in.");
        }
        return CodeView.of(signIns.code(null, visitor), false, SignIns.LINK_LIFE);
    }

    /** Looks at a link's code without using it up. */
    @PostMapping("/sign-in-codes/look")
    @DeskOpen(DeskOpen.To.EVERYBODY)
    CodeLookView look(@RequestBody CodeRequest request) throws Refusal {
        SignInCodes.Code code = signIns.look(request.code() == null ? "" : request.code());
        if (!code.known()) {
            throw SignIns.usedLink();
        }
        return new CodeLookView(code.person());
    }
}
