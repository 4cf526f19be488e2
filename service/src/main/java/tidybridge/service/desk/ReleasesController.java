package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.Role;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.KeptContract;
import tidybridge.records.LiveMoved;
import tidybridge.records.Published;
import tidybridge.records.Publisher;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.Team;
import tidybridge.records.VersionTaken;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.AccessChanges;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.Visitor;
import tidybridge.service.desk.ReleaseViews.HistoryView;
import tidybridge.service.desk.ReleaseViews.ObjectionView;
import tidybridge.service.desk.ReleaseViews.ReleaseDetail;
import tidybridge.service.desk.ReleaseViews.ReleaseView;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.notice.TeamNews;
import tidybridge.service.release.DriftWatch;
import tidybridge.service.release.FindingNote;
import tidybridge.service.release.Objected;
import tidybridge.service.release.Objection;
import tidybridge.service.release.Prospect;
import tidybridge.service.release.Publishing;
import tidybridge.service.run.Refusal;

/** Publishing, and what was published. */
@RestController
@RequestMapping("/desk/releases")
class ReleasesController {

    private static final int LONGEST_NAME = 120;
    private static final int LONGEST_TITLE = 255;

    private final LiveModules modules;
    private final Publishing publishing;
    private final ModuleTexts texts;
    private final Records records;
    private final DriftWatch drift;
    private final LiveAccess access;
    private final AccessChanges changes;
    private final TeamNews news;
    private final Clock clock;

    ReleasesController(
            LiveModules modules,
            Publishing publishing,
            ModuleTexts texts,
            Records records,
            DriftWatch drift,
            LiveAccess access,
            AccessChanges changes,
            TeamNews news,
            Clock clock) {
        this.news = news;
        this.access = access;
        this.changes = changes;
        this.publishing = publishing;
        this.texts = texts;
        this.modules = modules;
        this.records = records;
        this.drift = drift;
        this.clock = clock;
    }

    /**
     * What is to be published.
     *
     * @param by counts for the administrator's token only, which says nothing about who uses it
     * @param note what is told of the releases; null for nothing
     * @param breaking why callers must live with what breaks under the major version they use; null when nothing may break
     * @param from the release of another service that they are carried from; null for none
     * @param workspace the title of the workspace that the roles are of
     * @param roles those of its text; null when it says nothing about roles
     * @param review the approved one whose text is published; null to publish {@code modules}
     */
    record PublishRequest(
            @Nullable String by,
            @Nullable String note,
            @Nullable String breaking,
            @Nullable String from,
            @Nullable String workspace,
            @Nullable List<ModuleTexts.RoleText> roles,
            @Nullable Long review,
            @Nullable List<ModuleTexts.TextView> modules) {}

    record PublishedView(
            String name,
            int major,
            String version,
            String outcome,
            String basePath,
            @Nullable String comparedWith,
            List<DifferenceNote> differences,
            List<FindingNote> findings) {}

    record PublishedViews(List<PublishedView> modules, List<AccessChanges.RoleChange> roles) {}

    record UnfitView(String type, String title, int status, String detail, String code, List<FindingNote> findings) {}

    record ObjectedView(
            String type, String title, int status, String detail, String code, List<ObjectionView> modules) {}

    record AllReleases(List<ReleaseView> releases) {}

    @GetMapping
    @DeskNeeds(ServicePrivilege.READ)
    AllReleases all() {
        return new AllReleases(
                records.releases().all().stream().map(ReleaseView::of).toList());
    }

    /** What was published of a module, and what was live of it when. */
    @GetMapping("/{name}")
    @DeskNeeds(ServicePrivilege.READ)
    HistoryView history(@PathVariable("name") String name) {
        HistoryView history = HistoryView.of(
                name, records.releases().history(name), records.releases().changes(name), drift::of);
        if (history.releases().isEmpty()) {
            throw new DeskRefusal(ProblemKind.MODULE_UNKNOWN, "No module of that name was ever published.");
        }
        return history;
    }

    /** One release with its text and what it promises. */
    @GetMapping("/{name}/{version}")
    @DeskNeeds(ServicePrivilege.READ)
    ReleaseDetail one(@PathVariable("name") String name, @PathVariable("version") String version) {
        Release release = Version.parse(version)
                .flatMap(wanted -> records.releases().find(name, wanted))
                .orElseThrow(() ->
                        new DeskRefusal(ProblemKind.MODULE_UNKNOWN, "No release of that name and version is kept."));
        KeptContract kept = records.releases().kept(release.id()).orElse(null);
        return ReleaseDetail.of(release, kept, drift.of(release.id()));
    }

    /** A live module's text as it was published. */
    @GetMapping("/live/{name}/v{major:\\d{1,5}}")
    @DeskNeeds(ServicePrivilege.READ)
    ModuleTexts.TextView text(@PathVariable("name") String name, @PathVariable("major") int major) {
        LiveModule module = modules.now().module(name + "/v" + major);
        if (module == null) {
            throw new DeskRefusal(ProblemKind.MODULE_UNKNOWN, "No module of that name and version is live.");
        }
        ModuleText text = module.release().text();
        return new ModuleTexts.TextView(text.folder(), text.files());
    }

    @PostMapping(consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.PUBLISH)
    ResponseEntity<?> publish(@RequestBody PublishRequest request, HttpServletRequest http) throws Refusal {
        Visitor visitor = Visitor.of(http);
        Publishing.Words words = ReleaseWords.words(request);
        List<Role> known = ModuleTexts.roles(request.roles(), access.now().roles());
        List<TextCompiler.Compiled> compiled = texts.compile(wanted(request), known);
        if (compiled.stream().anyMatch(module -> module.plan() == null)) {
            return unfit(compiled);
        }
        ModuleTexts.refuseTwins(compiled);
        List<Role> roles = request.roles() == null ? null : ModuleTexts.roles(request.roles());
        String workspace = request.workspace() == null ? "" : request.workspace();
        if (roles != null && (workspace.isBlank() || workspace.length() > LONGEST_TITLE)) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "'roles' belong to a 'workspace', whose title has 1 to " + LONGEST_TITLE + " characters.");
        }
        List<AccessChanges.RoleChange> changed = roles == null ? List.of() : changes.changes(workspace, roles, visitor);
        try {
            List<Prospect> prospects = compiled.stream().map(publishing::look).toList();
            List<Published> published = publishing.publish(
                    prospects,
                    words,
                    new Publisher(by(request, visitor), visitor.caller().address(), clock.instant()));
            if (roles != null) {
                changes.takeRoles(workspace, roles, changed, visitor);
            }
            tellTeams(prospects, published, http);
            return ResponseEntity.ok(new PublishedViews(views(prospects, published), changed));
        } catch (Objected e) {
            return objected(e);
        } catch (VersionTaken e) {
            throw ReleaseWords.taken(e);
        } catch (LiveMoved e) {
            throw ReleaseWords.moved(e);
        }
    }

    private void tellTeams(List<Prospect> prospects, List<Published> published, HttpServletRequest http) {
        Map<String, List<Team>> concerned = new LinkedHashMap<>();
        for (int i = 0; i < published.size(); i++) {
            if (published.get(i).outcome() != Published.Outcome.UNCHANGED) {
                String module = prospects.get(i).contract().module();
                concerned.put(module, news.concerned(module));
            }
        }
        news.tell(concerned, OwnAddress.of(http));
    }

    /** The text of a review, or those of the request. */
    private List<ModuleText> wanted(PublishRequest request) {
        Long review = request.review();
        if (review == null) {
            return ModuleTexts.of(request.modules());
        }
        if (request.modules() != null) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "Give 'review', whose text is published, or 'modules', and not both.");
        }
        return List.of(records.reviews()
                .text(review)
                .orElseThrow(() -> new DeskRefusal(ProblemKind.ROW_UNKNOWN, "No review of that number is kept.")));
    }

    static String by(PublishRequest request, Visitor visitor) {
        String by = request.by();
        if (by == null
                || by.isBlank()
                || visitor.session() != null
                || visitor.caller().client() != null) {
            return visitor.who();
        }
        return by.length() <= LONGEST_NAME ? by : by.substring(0, LONGEST_NAME);
    }

    /** Some texts have errors. */
    static ResponseEntity<?> unfit(List<TextCompiler.Compiled> compiled) {
        ProblemKind kind = ProblemKind.UNFIT;
        List<FindingNote> findings = compiled.stream()
                .flatMap(module -> FindingNote.of(module.findings()).stream())
                .toList();
        long errors = findings.stream()
                .filter(finding -> finding.severity().equals("error"))
                .count();
        String detail = "Nothing was published: " + errors + (errors == 1 ? " finding" : " findings")
                + " must be mended first.";
        return problem(kind, new UnfitView(kind.type(), kind.title(), kind.status(), detail, kind.label(), findings));
    }

    /** Some modules may not be published as they are. */
    static ResponseEntity<?> objected(Objected e) {
        boolean promised = e.objections().stream().anyMatch(one -> !(one instanceof Objection.Unapproved));
        ProblemKind kind = promised ? ProblemKind.CONTRACT_BROKEN : ProblemKind.REVIEW_NEEDED;
        return problem(
                kind,
                new ObjectedView(
                        kind.type(),
                        kind.title(),
                        kind.status(),
                        "Nothing was changed. " + e.getMessage(),
                        kind.label(),
                        e.objections().stream().map(ObjectionView::of).toList()));
    }

    private static ResponseEntity<?> problem(ProblemKind kind, Object body) {
        return ResponseEntity.status(HttpStatus.valueOf(kind.status()))
                .contentType(MediaType.parseMediaType(Problem.MEDIA_TYPE))
                .body(body);
    }

    private static List<PublishedView> views(List<Prospect> prospects, List<Published> published) {
        List<PublishedView> views = new ArrayList<>();
        for (int i = 0; i < published.size(); i++) {
            Prospect prospect = prospects.get(i);
            Contract contract = prospect.contract();
            String outcome =
                    published.get(i).outcome().name().toLowerCase(Locale.ROOT).replace('_', '-');
            views.add(new PublishedView(
                    contract.module(),
                    contract.version().major(),
                    contract.version().toString(),
                    outcome,
                    contract.basePath(),
                    ReleaseWords.version(prospect.base()),
                    prospect.compared().map(DifferenceNote::of).orElse(List.of()),
                    FindingNote.of(prospect.compiled().findings())));
        }
        return views;
    }
}
