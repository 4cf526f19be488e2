package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.definition.Version;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Source;
import tidybridge.records.LiveMoved;
import tidybridge.records.Publisher;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.Team;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.Visitor;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.notice.TeamNews;
import tidybridge.service.release.Objected;
import tidybridge.service.release.Prospect;
import tidybridge.service.release.Publishing;

/** Which release is live under a major version: back to an earlier one, or none any more. */
@RestController
@RequestMapping("/desk/modules/{name}/v{major:\\d{1,5}}/release")
class LiveReleasesController {

    private final Publishing publishing;
    private final Records records;
    private final TeamNews news;
    private final Clock clock;

    LiveReleasesController(Publishing publishing, Records records, TeamNews news, Clock clock) {
        this.news = news;
        this.publishing = publishing;
        this.records = records;
        this.clock = clock;
    }

    /**
     * Which release is to be live.
     *
     * @param reason why; needed where callers are let down
     */
    record RevertRequest(@Nullable String version, @Nullable String reason) {}

    /**
     * What is live since.
     *
     * @param replaced the version that was live before; null for none, and the same one where nothing had to be changed
     * @param differences from what was promised before
     */
    record RevertedView(
            String name,
            int major,
            String version,
            @Nullable String replaced,
            List<DifferenceNote> differences) {}

    record RetiredView(String name, int major, String version) {}

    @PutMapping(consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.PUBLISH)
    ResponseEntity<?> revert(
            @PathVariable("name") String name,
            @PathVariable("major") int major,
            @RequestBody RevertRequest request,
            HttpServletRequest http) {
        Release release = Version.parse(request.version() == null ? "" : request.version())
                .filter(version -> version.major() == major)
                .flatMap(version -> records.releases().find(name, version))
                .orElseThrow(() -> new DeskRefusal(
                        ProblemKind.MODULE_UNKNOWN,
                        "No release of that name and version is kept under v" + major + "; its history lists them."));
        String reason = ReleaseWords.checked("reason", request.reason());
        TextCompiler.Compiled compiled = compile(release);
        if (compiled.plan() == null) {
            return ReleasesController.unfit(List.of(compiled));
        }
        Prospect prospect = publishing.look(compiled);
        try {
            publishing.revert(release, prospect, reason, by(http));
        } catch (Objected e) {
            return ReleasesController.objected(e);
        } catch (LiveMoved e) {
            throw ReleaseWords.moved(e);
        }
        news.tell(Map.of(name, news.concerned(name)), OwnAddress.of(http));
        Release live = prospect.live();
        return ResponseEntity.ok(new RevertedView(
                name,
                major,
                release.version().toString(),
                live == null ? null : live.version().toString(),
                prospect.compared().map(DifferenceNote::of).orElse(List.of())));
    }

    private TextCompiler.Compiled compile(Release release) {
        try {
            return publishing.compile(release);
        } catch (Source.Unreachable e) {
            throw new DeskRefusal(
                    ProblemKind.SOURCE_UNAVAILABLE,
                    "Its source does not answer, so nobody can tell whether the text still fits: " + e.getMessage());
        }
    }

    /**
     * Takes a major version away.
     *
     * @param version what is live, as whoever asks believes
     * @param reason why; told to those who call it still
     */
    @DeleteMapping
    @DeskNeeds(ServicePrivilege.PUBLISH)
    RetiredView retire(
            @PathVariable("name") String name,
            @PathVariable("major") int major,
            @RequestParam("version") String version,
            @RequestParam("reason") String reason,
            HttpServletRequest http) {
        String why = ReleaseWords.checked("reason", reason);
        if (why == null) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'reason' says why it is retired; its callers are told.");
        }
        Release live = records.releases()
                .live(name, major)
                .orElseThrow(() ->
                        new DeskRefusal(ProblemKind.MODULE_UNKNOWN, "No module of that name and version is live."));
        if (!live.version().toString().equals(version)) {
            throw new DeskRefusal(
                    ProblemKind.CONFLICT,
                    name + " " + live.version() + " is live, and not " + version + ". Nothing was changed.");
        }
        List<Team> concerned = news.concerned(name);
        try {
            publishing.retire(live, why, by(http));
        } catch (LiveMoved e) {
            throw ReleaseWords.moved(e);
        }
        news.tell(Map.of(name, concerned), OwnAddress.of(http));
        return new RetiredView(name, major, live.version().toString());
    }

    private Publisher by(HttpServletRequest http) {
        Visitor visitor = Visitor.of(http);
        return new Publisher(visitor.who(), visitor.caller().address(), clock.instant());
    }
}
