package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AccessRequest;
import tidybridge.records.Person;
import tidybridge.records.Session;
import tidybridge.records.Team;
import tidybridge.service.OwnAddress;
import tidybridge.service.SignUp;
import tidybridge.service.TidySettings;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.RequestChanges;
import tidybridge.service.access.SessionCookies;
import tidybridge.service.access.SignIns;
import tidybridge.service.access.TeamChanges;
import tidybridge.service.access.Visitor;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.notice.Notices;
import tidybridge.service.run.Refusal;

/** How people of client teams come in: they sign in, join by an invitation, or ask to become a team. */
@Controller
class MembersController {

    private static final String SIGN_IN = "sign-in";
    private static final String JOIN = "team-join";
    private static final String INVITATION = "team-invitation";
    private static final String PASSWORD = "team-password";
    private static final int LONGEST_BACK = 500;
    private static final int DELETE = 127;

    private final Site site;
    private final SignIns signIns;
    private final LiveAccess access;
    private final TeamChanges teams;
    private final RequestChanges requests;
    private final Notices notices;
    private final BytesInFlight bytes;
    private final SignUp signUp;

    MembersController(
            Site site,
            SignIns signIns,
            LiveAccess access,
            TeamChanges teams,
            RequestChanges requests,
            Notices notices,
            BytesInFlight bytes,
            TidySettings.Checked settings) {
        this.site = site;
        this.signIns = signIns;
        this.access = access;
        this.teams = teams;
        this.requests = requests;
        this.notices = notices;
        this.bytes = bytes;
        this.signUp = settings.signUp();
    }

    @GetMapping("/team/sign-in")
    void signIn(
            @RequestParam(name = "back", required = false) @Nullable String back,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        showSignIn(new SiteForm(Map.of("back", List.of(local(back)))), null, request, response);
    }

    /** Only an address of this service: nobody is led elsewhere after signing in. */
    private static String local(@Nullable String back) {
        return back != null && isLocal(back) ? back : "/team";
    }

    private static boolean isLocal(String address) {
        return address.length() <= LONGEST_BACK
                && address.startsWith("/")
                && !address.startsWith("//")
                && address.chars().allMatch(c -> c > ' ' && c != '\\' && c < DELETE);
    }

    private void showSignIn(
            SiteForm form, @Nullable Problem trouble, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        boolean factor = trouble != null && trouble.kind() == ProblemKind.FACTOR_NEEDED;
        show(
                SIGN_IN,
                "Sign in",
                Map.of("back", local(form.one("back")), "factor", factor, "mayAsk", signUp == SignUp.ON_REQUEST),
                form,
                trouble,
                request,
                response);
    }

    private void show(
            String template,
            String title,
            Map<String, Object> values,
            SiteForm form,
            @Nullable Problem trouble,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        site.sendForm(template, SiteFrame.of(title, "", site.visitor(request)), values, form, trouble, response);
    }

    @PostMapping("/team/sign-in")
    void signInNow(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        try {
            SignIns.Shown shown = new SignIns.Shown(
                    form.one("name").strip(),
                    form.one("password"),
                    form.one("factor").isBlank() ? null : form.one("factor"),
                    SessionCookies.device(request),
                    request.getRemoteAddr());
            enter(signIns.byPasswordOnSite(shown, request), local(form.one("back")), request, response);
        } catch (Refusal e) {
            showSignIn(form, e.problem(), request, response);
        }
    }

    private void enter(
            SignIns.Opened opened, String address, HttpServletRequest request, HttpServletResponse response) {
        SessionCookies.of(opened, signIns, request)
                .forEach(cookie -> response.addHeader(HttpHeaders.SET_COOKIE, cookie));
        Site.seeOther(address, response);
    }

    @PostMapping("/team/sign-out")
    void signOut(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm.read(request, bytes);
        Visitor visitor = site.visitor(request);
        Session session = visitor.session();
        if (session != null) {
            signIns.end(session, visitor);
        }
        response.addHeader(HttpHeaders.SET_COOKIE, SessionCookies.ended(request));
        Site.seeOther("/directory", response);
    }

    @GetMapping("/team/join")
    void join(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        showJoin(false, SiteForm.EMPTY, null, request, response);
    }

    private void showJoin(
            boolean asked,
            SiteForm form,
            @Nullable Problem trouble,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        show(
                JOIN,
                "Become a client team",
                Map.of("mayAsk", signUp == SignUp.ON_REQUEST, "asked", asked),
                form,
                trouble,
                request,
                response);
    }

    @PostMapping("/team/join")
    void askToJoin(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        if (signUp != SignUp.ON_REQUEST) {
            throw new Refusal(
                    ProblemKind.NOT_ALLOWED, "Client teams are invited here; ask the owner of the modules for it.");
        }
        try {
            AccessRequest asked = requests.askForTeam(
                    form.one("title"),
                    form.one("full-name"),
                    form.one("contact"),
                    form.one("reason"),
                    request.getRemoteAddr());
            notices.asked(asked, null, OwnAddress.of(request));
            showJoin(true, form, null, request, response);
        } catch (Refusal e) {
            showJoin(false, form, e.problem(), request, response);
        }
    }

    @GetMapping("/team/invitation")
    void invitation(
            @RequestParam(name = "code", required = false) @Nullable String code,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        showInvitation(code == null ? "" : code, SiteForm.EMPTY, null, request, response);
    }

    private void showInvitation(
            String code,
            SiteForm form,
            @Nullable Problem trouble,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Team team = teams.invitedInto(code);
        show(INVITATION, "Join " + team.title(), Map.of("team", team, "code", code), form, trouble, request, response);
    }

    /** Where a link leads with which somebody of a team chooses a password anew. */
    @GetMapping("/team/password")
    void password(
            @RequestParam(name = "code", required = false) @Nullable String code,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        showPassword(code == null ? "" : code, null, request, response);
    }

    private void showPassword(
            String code, @Nullable Problem trouble, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        String person = member(code);
        show(
                PASSWORD,
                "Choose a password",
                Map.of("person", person, "code", code),
                SiteForm.EMPTY,
                trouble,
                request,
                response);
    }

    /** The one of a team's people whom a link is for; the links of others are none here. */
    private String member(String code) throws Refusal {
        String name = signIns.look(code).person();
        Person person = name == null ? null : access.now().person(name);
        if (name == null || person == null || person.team() == null) {
            throw TeamChanges.usedLink();
        }
        return name;
    }

    @PostMapping("/team/password")
    void choosePassword(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        String code = form.one("code");
        member(code);
        try {
            enter(signIns.byCode(code, form.one("password"), request.getRemoteAddr()), "/team", request, response);
        } catch (Refusal e) {
            showPassword(code, e.problem(), request, response);
        }
    }

    @PostMapping("/team/invitation")
    void acceptInvitation(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        try {
            SignIns.Opened opened = teams.join(
                    form.one("code"),
                    form.one("name").strip(),
                    form.one("full-name"),
                    form.one("password"),
                    request.getRemoteAddr());
            enter(opened, "/team", request, response);
        } catch (Refusal e) {
            showInvitation(form.one("code"), form, e.problem(), request, response);
        }
    }
}
