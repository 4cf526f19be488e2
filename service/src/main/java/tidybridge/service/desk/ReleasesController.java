package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
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
import tidybridge.core.definition.ModuleText;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Source;
import tidybridge.records.Published;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.ReleaseEntry;
import tidybridge.records.VersionTaken;
import tidybridge.service.access.AccessChanges;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.Visitor;
import tidybridge.service.desk.Views.FindingView;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.run.Refusal;

/** Publishing, and what was published. */
@RestController
@RequestMapping("/desk/releases")
class ReleasesController {

    private static final int LONGEST_NAME = 120;
    private static final int LONGEST_TITLE = 255;

    private final LiveModules modules;
    private final TextCompiler compiler;
    private final Records records;
    private final LiveAccess access;
    private final AccessChanges changes;
    private final Clock clock;

    ReleasesController(
            LiveModules modules,
            TextCompiler compiler,
            Records records,
            LiveAccess access,
            AccessChanges changes,
            Clock clock) {
        this.access = access;
        this.changes = changes;
        this.compiler = compiler;
        this.modules = modules;
        this.records = records;
        this.clock = clock;
    }

    /**
     * What is to be published.
     *
     * @param by counts for the administrator's token only, which says nothing about who uses it
     * @param workspace the title of the workspace that the roles are of
     * @param roles those of its text; null when it says nothing about roles
     */
    record PublishRequest(
            @Nullable String by,
            @Nullable String workspace,
            @Nullable List<ModuleTexts.RoleText> roles,
            @Nullable List<ModuleTexts.TextView> modules) {}

    record PublishedView(
            String name, int major, String version, String outcome, String basePath, List<FindingView> findings) {}

    record PublishedViews(List<PublishedView> modules, List<AccessChanges.RoleChange> roles) {}

    record UnfitView(String type, String title, int status, String detail, List<FindingView> findings) {}

    record ReleaseView(long id, String name, String version, String hash, String publishedBy, Instant publishedAt) {
        static ReleaseView of(ReleaseEntry release) {
            return new ReleaseView(
                    release.id(),
                    release.module(),
                    release.version().toString(),
                    release.hash(),
                    release.publishedBy(),
                    release.publishedAt());
        }
    }

    record ReleaseViews(List<ReleaseView> releases) {}

    @GetMapping
    @DeskNeeds(ServicePrivilege.READ)
    ReleaseViews all() {
        return new ReleaseViews(records.all().stream().map(ReleaseView::of).toList());
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
        List<Role> known = ModuleTexts.roles(request.roles(), access.now().roles());
        List<TextCompiler.Compiled> compiled = compile(ModuleTexts.of(request.modules()), known);
        List<FindingView> findings = compiled.stream()
                .flatMap(module -> module.findings().stream())
                .map(FindingView::of)
                .toList();
        if (compiled.stream().anyMatch(module -> module.plan() == null)) {
            return unfit(findings);
        }
        refuseTwins(compiled);
        List<Role> roles = request.roles() == null ? null : ModuleTexts.roles(request.roles());
        String workspace = request.workspace() == null ? "" : request.workspace();
        if (roles != null && (workspace.isBlank() || workspace.length() > LONGEST_TITLE)) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "'roles' belong to a 'workspace', whose title has 1 to " + LONGEST_TITLE + " characters.");
        }
        List<AccessChanges.RoleChange> changed = roles == null ? List.of() : changes.changes(workspace, roles, visitor);
        try {
            List<Published> published = modules.publish(
                    compiled, by(request, visitor), visitor.caller().address(), clock.instant());
            if (roles != null) {
                changes.takeRoles(workspace, roles, changed, visitor);
            }
            return ResponseEntity.ok(new PublishedViews(views(compiled, published), changed));
        } catch (VersionTaken e) {
            throw new DeskRefusal(
                    ProblemKind.CONFLICT,
                    e.module() + " " + e.version()
                            + " is published already with another text, and a release never changes; raise 'version' in its module.yaml.");
        }
    }

    private List<TextCompiler.Compiled> compile(List<ModuleText> texts, List<Role> roles) {
        try {
            return texts.stream()
                    .map(text -> compiler.compile(text, modules::operationIds, roles))
                    .toList();
        } catch (Source.Unreachable e) {
            throw new DeskRefusal(
                    ProblemKind.SOURCE_UNAVAILABLE,
                    "A source does not answer, so nothing can be checked against it: " + e.getMessage());
        }
    }

    private static void refuseTwins(List<TextCompiler.Compiled> compiled) {
        Set<String> identities = new HashSet<>();
        for (TextCompiler.Compiled module : compiled) {
            ModulePlan plan = module.plan();
            if (plan != null && !identities.add(plan.identity())) {
                throw new DeskRefusal(
                        ProblemKind.CONFLICT, "The request holds " + plan.identity() + " twice; only one can be live.");
            }
        }
    }

    private static String by(PublishRequest request, Visitor visitor) {
        String by = request.by();
        if (by == null
                || by.isBlank()
                || visitor.session() != null
                || visitor.caller().client() != null) {
            return visitor.who();
        }
        return by.length() <= LONGEST_NAME ? by : by.substring(0, LONGEST_NAME);
    }

    private static ResponseEntity<?> unfit(List<FindingView> findings) {
        ProblemKind kind = ProblemKind.UNFIT;
        long errors = findings.stream()
                .filter(finding -> finding.severity().equals("error"))
                .count();
        String detail = "Nothing was published: " + errors + (errors == 1 ? " finding" : " findings")
                + " must be mended first.";
        return ResponseEntity.status(HttpStatus.valueOf(kind.status()))
                .contentType(MediaType.parseMediaType(Problem.MEDIA_TYPE))
                .body(new UnfitView(kind.type(), kind.title(), kind.status(), detail, findings));
    }

    private static List<PublishedView> views(List<TextCompiler.Compiled> compiled, List<Published> published) {
        List<PublishedView> views = new ArrayList<>();
        for (int i = 0; i < published.size(); i++) {
            Release release = published.get(i).release();
            String outcome =
                    published.get(i).outcome().name().toLowerCase(Locale.ROOT).replace('_', '-');
            views.add(new PublishedView(
                    release.module(),
                    release.version().major(),
                    release.version().toString(),
                    outcome,
                    "/api/" + release.module() + "/v" + release.version().major(),
                    compiled.get(i).findings().stream().map(FindingView::of).toList()));
        }
        return views;
    }
}
