package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.records.ClientApplication;
import tidybridge.records.Person;
import tidybridge.records.Team;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.AccessBook;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.TeamChanges;
import tidybridge.service.access.Visitor;
import tidybridge.service.run.Refusal;

/** Client teams, for whoever gives access. */
@RestController
@RequestMapping("/desk")
class TeamsController {

    private final TeamChanges teams;
    private final LiveAccess access;

    TeamsController(TeamChanges teams, LiveAccess access) {
        this.teams = teams;
        this.access = access;
    }

    record TeamView(
            String name, String title, String contact, List<String> people, List<String> clients, Instant createdAt) {

        static TeamView of(Team team, AccessBook book) {
            return new TeamView(
                    team.name(),
                    team.title(),
                    team.contact(),
                    book.peopleOf(team).stream().map(Person::name).toList(),
                    book.clientsOf(team).stream().map(ClientApplication::name).toList(),
                    team.createdAt());
        }
    }

    record TeamViews(List<TeamView> teams) {}

    record TeamRequest(@Nullable String title, @Nullable String contact) {}

    /** With a link somebody joins a team; it is shown this once. */
    record InvitationView(String link, long validSeconds) {}

    @GetMapping("/teams")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    TeamViews all() {
        AccessBook book = access.now();
        return new TeamViews(
                book.teams().stream().map(team -> TeamView.of(team, book)).toList());
    }

    /** Makes a team; one that is there stays as it is. */
    @PutMapping("/teams/{name}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    TeamView add(@PathVariable("name") String name, @RequestBody TeamRequest team, HttpServletRequest http)
            throws Refusal {
        String title = team.title() == null ? "" : team.title();
        Team made = teams.add(name, title, team.contact() == null ? "" : team.contact(), Visitor.of(http));
        return TeamView.of(made, access.now());
    }

    @DeleteMapping("/teams/{name}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable("name") String name, HttpServletRequest http) throws Refusal {
        teams.remove(name, Visitor.of(http));
    }

    @PostMapping("/teams/{name}/invitations")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    InvitationView invite(@PathVariable("name") String name, HttpServletRequest http) throws Refusal {
        String code = teams.invite(teams.known(name), Visitor.of(http));
        return new InvitationView(link(code, http), TeamChanges.INVITATION_LIFE.toSeconds());
    }

    static String link(String code, HttpServletRequest http) {
        return OwnAddress.of(http) + "/team/invitation?code=" + code;
    }

    @DeleteMapping("/clients/{name}/privileges/{privilege}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void takeBack(
            @PathVariable("name") String name, @PathVariable("privilege") String privilege, HttpServletRequest http)
            throws Refusal {
        teams.takeBack(name, privilege, Visitor.of(http));
    }
}
