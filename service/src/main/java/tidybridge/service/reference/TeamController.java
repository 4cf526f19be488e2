package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.ClientApplication;
import tidybridge.records.Records;
import tidybridge.records.RefusedCall;
import tidybridge.records.Team;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.ClientChanges;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.RequestChanges;
import tidybridge.service.access.SignIns;
import tidybridge.service.access.TeamChanges;
import tidybridge.service.access.Visitor;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.notice.Notices;
import tidybridge.service.run.Refusal;

/** What the people of a client team see of it, and do for it: its people, its applications and their credentials. */
@Controller
public class TeamController {

    private static final int MOST_CALLS = 20;

    private final Site site;
    private final LiveAccess access;
    private final TeamChanges teams;
    private final RequestChanges requests;
    private final SignIns signIns;
    private final Notices notices;
    private final Records records;
    private final BytesInFlight bytes;
    private final Clock clock;

    TeamController(
            Site site,
            LiveAccess access,
            TeamChanges teams,
            RequestChanges requests,
            SignIns signIns,
            Notices notices,
            Records records,
            BytesInFlight bytes,
            Clock clock) {
        this.site = site;
        this.access = access;
        this.teams = teams;
        this.requests = requests;
        this.signIns = signIns;
        this.notices = notices;
        this.records = records;
        this.bytes = bytes;
        this.clock = clock;
    }

    @GetMapping("/team")
    void team(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        if (Site.isReloadNeeded(visitor, request)) {
            site.reload(response);
        } else if (visitor.person() == null && !visitor.caller().isKnown()) {
            Site.seeOther("/team/sign-in?back=/team", response);
        } else if (access.now().teamOf(visitor) == null) {
            site.sendForm("no-team", frame("No client team", visitor), Map.of(), SiteForm.EMPTY, null, response);
        } else {
            show(SiteForm.EMPTY, null, Once.NOTHING, request, response);
        }
    }

    /**
     * What is shown this once; empty for nothing.
     *
     * @param link of an invitation
     * @param webhookKey that calls are signed with
     */
    public record Once(String link, String webhookKey) {
        static final Once NOTHING = new Once("", "");
    }

    private static SiteFrame frame(String title, Visitor visitor) {
        return SiteFrame.of(title, "", visitor);
    }

    private void show(
            SiteForm form,
            @Nullable Problem trouble,
            Once once,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        Team team = site.team(visitor);
        TeamView view = TeamView.of(team, access.now(), records.requests().ofTeam(team.name()), clock.instant());
        List<RefusedCall> calls = new ArrayList<>();
        view.applications()
                .forEach(application -> calls.addAll(
                        records.refusedCalls().by(application.client().name(), MOST_CALLS)));
        calls.sort(Comparator.comparing(RefusedCall::at).reversed());
        site.sendForm(
                "team",
                frame(team.title(), visitor),
                Map.of("view", view, "calls", calls.stream().limit(MOST_CALLS).toList(), "once", once),
                form,
                trouble,
                response);
    }

    /** What a form of the page of the team asks for. */
    private interface Deed {
        /** Does it, and leads to the page that shows it. */
        String run(SiteForm form, Team team, Visitor visitor) throws Refusal;
    }

    private void act(Deed deed, HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        Visitor visitor = site.visitor(request);
        Team team = site.team(visitor);
        try {
            Site.seeOther(deed.run(form, team, visitor), response);
        } catch (Refusal e) {
            show(form, e.problem(), Once.NOTHING, request, response);
        }
    }

    @PostMapping("/team/applications")
    void addApplication(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        act(
                (form, team, visitor) -> {
                    String name = form.one("application").strip();
                    teams.addClient(team, name, form.one("about"), visitor);
                    return "/team/applications/" + name;
                },
                request,
                response);
    }

    @PostMapping("/team/applications/{name}/remove")
    void removeApplication(@PathVariable("name") String name, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        act(
                (form, team, visitor) -> {
                    checkSure(form, name);
                    teams.removeClient(team, name, visitor);
                    return "/team";
                },
                request,
                response);
    }

    /** What cannot be undone asks for the name: without scripts, a page cannot ask twice. */
    private static void checkSure(SiteForm form, String name) throws Refusal {
        if (!form.one("sure").strip().equals(name)) {
            throw new Refusal(
                    ProblemKind.BAD_INPUT,
                    "Nothing was removed: type '" + name + "' to remove it, as that cannot be undone.");
        }
    }

    @PostMapping("/team/people/{name}/remove")
    void removePerson(@PathVariable("name") String name, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        act(
                (form, team, visitor) -> {
                    checkSure(form, name);
                    teams.removePerson(team, name, visitor);
                    return "/team";
                },
                request,
                response);
    }

    @PostMapping("/team/contact")
    void contact(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        act(
                (form, team, visitor) -> {
                    teams.mailTo(team, form.one("contact"), visitor);
                    return "/team";
                },
                request,
                response);
    }

    /** The key that calls are signed with is shown on the page that answers, this once. */
    @PostMapping("/team/webhook")
    void webhook(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        Visitor visitor = site.visitor(request);
        try {
            String key = teams.callAt(site.team(visitor), form.one("webhook"), notices.reachesInside(), visitor);
            if (key.isEmpty()) {
                Site.seeOther("/team#contact", response);
            } else {
                show(SiteForm.EMPTY, null, new Once("", key), request, response);
            }
        } catch (Refusal e) {
            show(form, e.problem(), Once.NOTHING, request, response);
        }
    }

    @PostMapping("/team/own-password")
    void password(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        act(
                (form, team, visitor) -> {
                    signIns.changePassword(visitor, form.one("password"), form.one("chosen"));
                    return "/team";
                },
                request,
                response);
    }

    @PostMapping("/team/invitations")
    void invite(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        Visitor visitor = site.visitor(request);
        try {
            String code = teams.invite(site.team(visitor), visitor);
            show(SiteForm.EMPTY, null, new Once(link(code, request), ""), request, response);
        } catch (Refusal e) {
            show(form, e.problem(), Once.NOTHING, request, response);
        }
    }

    private static String link(String code, HttpServletRequest request) {
        return OwnAddress.of(request) + "/team/invitation?code=" + code;
    }

    @PostMapping("/team/requests/{id}/withdraw")
    void withdraw(@PathVariable("id") String id, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        act(
                (form, team, visitor) -> {
                    requests.withdraw(team, number(id), visitor);
                    return "/team";
                },
                request,
                response);
    }

    /** No number is that of no request. */
    private static long number(String id) {
        return id.matches("[0-9]{1,18}") ? Long.parseLong(id) : -1;
    }

    @GetMapping("/team/applications/{name}")
    void application(@PathVariable("name") String name, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        showApplication(name, "", SiteForm.EMPTY, null, request, response);
    }

    private void showApplication(
            String name,
            String key,
            SiteForm form,
            @Nullable Problem trouble,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        Team team = site.team(visitor);
        ClientApplication client = teams.own(team, name);
        site.sendForm(
                "team-application",
                frame(name, visitor),
                Map.of(
                        "application",
                        TeamView.Application.of(client, access.now(), clock.instant()),
                        "requests",
                        records.requests().ofTeam(team.name()).stream()
                                .filter(one -> name.equals(one.client()))
                                .limit(MOST_CALLS)
                                .toList(),
                        "calls",
                        records.refusedCalls().by(name, MOST_CALLS),
                        "key",
                        key,
                        "own",
                        OwnAddress.of(request)),
                form,
                trouble,
                response);
    }

    /** The key is shown on the page that answers, this once. */
    @PostMapping("/team/applications/{name}/credentials")
    void addCredential(@PathVariable("name") String name, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        Visitor visitor = site.visitor(request);
        try {
            ClientChanges.MadeCredential made = teams.addCredential(
                    site.team(visitor), name, form.one("credential").strip(), Moment.endOf(form.one("until")), visitor);
            showApplication(name, made.key(), SiteForm.EMPTY, null, request, response);
        } catch (Refusal e) {
            showApplication(name, "", form, e.problem(), request, response);
        }
    }

    @PostMapping("/team/applications/{name}/credentials/{credential}/revoke")
    void revoke(
            @PathVariable("name") String name,
            @PathVariable("credential") String credential,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        SiteForm form = SiteForm.read(request, bytes);
        Visitor visitor = site.visitor(request);
        try {
            checkSure(form, credential);
            teams.revoke(site.team(visitor), name, credential, visitor);
            Site.seeOther("/team/applications/" + name, response);
        } catch (Refusal e) {
            showApplication(name, "", form, e.problem(), request, response);
        }
    }
}
