package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.text.Nearest;
import tidybridge.records.Announcement;
import tidybridge.records.AuditEntry;
import tidybridge.records.Records;
import tidybridge.records.Team;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.Visitor;
import tidybridge.service.live.LiveModules;
import tidybridge.service.notice.TeamNews;

/** What owners tell those who call their modules. */
@RestController
@RequestMapping("/desk/announcements")
class AnnouncementsController {

    private static final int LONGEST_TITLE = 200;
    private static final int LONGEST_WORDS = 4_000;

    private final LiveModules modules;
    private final Records records;
    private final TeamNews news;
    private final Clock clock;

    AnnouncementsController(LiveModules modules, Records records, TeamNews news, Clock clock) {
        this.modules = modules;
        this.records = records;
        this.news = news;
        this.clock = clock;
    }

    /**
     * What is said.
     *
     * @param module the name of a module that is live under any version
     * @param title in one line
     */
    record AnnouncementRequest(
            @Nullable String module,
            @Nullable String title,
            @Nullable String words) {}

    /** @param teams that are told by mail or webhook */
    record AnnouncedView(String module, String title, List<String> teams) {}

    @PostMapping
    @DeskNeeds(ServicePrivilege.PUBLISH)
    AnnouncedView announce(@RequestBody AnnouncementRequest request, HttpServletRequest http) {
        String module = request.module() == null ? "" : request.module();
        List<String> known = modules.now().modules().stream()
                .map(live -> live.release().module())
                .distinct()
                .toList();
        if (!known.contains(module)) {
            throw new DeskRefusal(
                    ProblemKind.MODULE_UNKNOWN,
                    "No module named '" + module + "' is live." + Nearest.hint(module, known));
        }
        String title = text("title", request.title(), LONGEST_TITLE);
        String words = text("words", request.words(), LONGEST_WORDS);
        if (title.lines().count() > 1) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'title' is one line.");
        }
        Visitor by = Visitor.of(http);
        records.announcements()
                .add(
                        new Announcement(0, module, title, words, by.who(), clock.instant()),
                        new AuditEntry(clock.instant(), by.who(), by.caller().address(), "announce", module, title));
        modules.news().forget();
        List<Team> concerned = news.concerned(module);
        news.tell(Map.of(module, concerned), OwnAddress.of(http));
        return new AnnouncedView(
                module, title, concerned.stream().map(Team::name).toList());
    }

    private static String text(String field, @Nullable String text, int most) {
        if (text == null || text.isBlank() || text.length() > most) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'" + field + "' has 1 to " + most + " characters.");
        }
        return text.strip();
    }
}
