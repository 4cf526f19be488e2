package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AccessRequest;
import tidybridge.records.ClientApplication;
import tidybridge.records.Team;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.RequestChanges;
import tidybridge.service.access.TeamChanges;
import tidybridge.service.access.Visitor;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.live.LiveModule;
import tidybridge.service.notice.Notices;
import tidybridge.service.run.Refusal;

/** Asking for privileges of a module. */
@Controller
class AskController {

    private final Site site;
    private final LiveAccess access;
    private final References references;
    private final TeamChanges teams;
    private final RequestChanges requests;
    private final Notices notices;
    private final BytesInFlight bytes;

    AskController(
            Site site,
            LiveAccess access,
            References references,
            TeamChanges teams,
            RequestChanges requests,
            Notices notices,
            BytesInFlight bytes) {
        this.site = site;
        this.access = access;
        this.references = references;
        this.teams = teams;
        this.requests = requests;
        this.notices = notices;
        this.bytes = bytes;
    }

    /** The form, for a module that whoever asks may read of. */
    @GetMapping("/team/ask")
    void ask(
            @RequestParam(name = "module", defaultValue = "") String module,
            @RequestParam(name = "privilege", required = false) @Nullable String privilege,
            @RequestParam(name = "application", required = false) @Nullable String application,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        if (Site.isReloadNeeded(visitor, request)) {
            site.reload(response);
        } else if (!visitor.caller().isKnown()) {
            Site.seeOther("/team/sign-in?back=" + Site.encoded(here(request)), response);
        } else if (access.now().teamOf(visitor) == null) {
            site.sendForm(
                    "no-team", SiteFrame.of("No client team", "", visitor), Map.of(), SiteForm.EMPTY, null, response);
        } else {
            SiteForm form = new SiteForm(Map.of(
                    "module", List.of(module),
                    "privilege", privilege == null ? List.of() : List.of(privilege),
                    "application", List.of(application == null ? "" : application)));
            show(form, null, request, response);
        }
    }

    private static String here(HttpServletRequest request) {
        String query = request.getQueryString();
        return request.getRequestURI() + (query == null ? "" : "?" + query);
    }

    private void show(
            SiteForm form, @Nullable Problem trouble, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        Team team = site.team(visitor);
        LiveModule module = module(form, visitor, request);
        site.sendForm(
                "team-ask",
                SiteFrame.of("Ask for access", "", visitor),
                Map.of(
                        "module", module.identity(),
                        "title", module.said().title(),
                        "askable", Askable.of(References.promised(module)),
                        "applications",
                                access.now().clientsOf(team).stream()
                                        .map(ClientApplication::name)
                                        .toList()),
                form,
                trouble,
                response);
    }

    private LiveModule module(SiteForm form, Visitor visitor, HttpServletRequest request) throws Refusal {
        String[] parts = form.one("module").split("/", 2);
        return references.readable(parts[0], parts.length < 2 ? "" : parts[1], site.onlooker(visitor, request));
    }

    @PostMapping("/team/ask")
    void askNow(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        Visitor visitor = site.visitor(request);
        Team team = site.team(visitor);
        LiveModule module = module(form, visitor, request);
        try {
            List<String> privileges = form.all("privilege").stream().distinct().toList();
            List<String> known = Askable.of(References.promised(module)).stream()
                    .map(Askable::privilege)
                    .toList();
            if (!known.containsAll(privileges)) {
                throw new Refusal(ProblemKind.BAD_INPUT, "The module asks for no such privilege any more.");
            }
            AccessRequest asked = requests.ask(
                    team, form.one("application"), module.identity(), privileges, form.one("reason"), visitor);
            notices.asked(asked, module.said().listing().contact(), OwnAddress.of(request));
            Site.seeOther("/team#requests", response);
        } catch (Refusal e) {
            show(form, e.problem(), request, response);
        }
    }
}
