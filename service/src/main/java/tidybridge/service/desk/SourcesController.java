package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.text.Nearest;
import tidybridge.engine.SampleRows;
import tidybridge.engine.Source;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.SourceProbe;
import tidybridge.engine.SourceSettings;
import tidybridge.engine.Sources;
import tidybridge.service.TidySettings;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.Visitor;
import tidybridge.service.audit.AuditNotes;
import tidybridge.service.desk.SourceViews.ContentsView;
import tidybridge.service.desk.SourceViews.ReloadedView;
import tidybridge.service.desk.SourceViews.SampleView;
import tidybridge.service.desk.SourceViews.SourceView;
import tidybridge.service.desk.SourceViews.SourcesView;
import tidybridge.service.desk.SourceViews.TestView;
import tidybridge.service.live.LiveModules;

/** The sources of this environment: how they are reached, whether they can be, and what they hold. */
@RestController
@RequestMapping("/desk/sources")
class SourcesController {

    private static final int MOST_SAMPLE_ROWS = 100;

    private final TidySettings settings;
    private final Sources sources;
    private final LiveModules modules;
    private final AuditNotes notes;

    SourcesController(TidySettings settings, Sources sources, LiveModules modules, AuditNotes notes) {
        this.notes = notes;
        this.settings = settings;
        this.sources = sources;
        this.modules = modules;
    }

    @GetMapping
    @DeskNeeds(ServicePrivilege.READ)
    SourcesView all() {
        return new SourcesView(sources.all().stream().map(SourceView::of).toList());
    }

    /** Tries the settings as they are written now, so that they can be mended before they are used. */
    @PostMapping("/{name}/test")
    @DeskNeeds(ServicePrivilege.OPERATE)
    TestView test(@PathVariable("name") String name) {
        List<SourceSettings> written = written();
        SourceSettings found = written.stream()
                .filter(source -> source.name().equals(name))
                .findFirst()
                .orElseThrow(() ->
                        unknown(name, written.stream().map(SourceSettings::name).toList()));
        return TestView.of(found, SourceProbe.run(found));
    }

    /** Reads the definitions again and uses them. */
    @PostMapping("/reload")
    @DeskNeeds(ServicePrivilege.OPERATE)
    ReloadedView reload(HttpServletRequest http) {
        Visitor visitor = Visitor.of(http);
        List<SourceSettings> written = written();
        ReloadedView reloaded = new ReloadedView(modules.useSources(written));
        notes.sources(written, visitor.who(), visitor.caller().address());
        return reloaded;
    }

    private List<SourceSettings> written() {
        try {
            return settings.sourcesNow();
        } catch (TidySettings.Unfit e) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, String.valueOf(e.getMessage()));
        }
    }

    @GetMapping("/{name}/contents")
    @DeskNeeds(ServicePrivilege.READ)
    ContentsView contents(@PathVariable("name") String name) {
        Source source = source(name);
        return ContentsView.of(
                source, answering(source, () -> source.catalog().contents().orElseThrow()));
    }

    @PostMapping("/{name}/refresh")
    @DeskNeeds(ServicePrivilege.READ)
    ContentsView refresh(@PathVariable("name") String name) {
        Source source = source(name);
        return ContentsView.of(source, answering(source, source::refresh));
    }

    @GetMapping("/{name}/contents/{relation}/sample")
    @DeskNeeds(ServicePrivilege.TRY)
    SampleView sample(
            @PathVariable("name") String name,
            @PathVariable("relation") String relation,
            @RequestParam(name = "rows", defaultValue = "10") int rows) {
        if (rows < 1 || rows > MOST_SAMPLE_ROWS) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'rows' must be from 1 to " + MOST_SAMPLE_ROWS + ".");
        }
        Source source = source(name);
        Contents contents = answering(source, () -> source.catalog().contents().orElseThrow());
        Relation found = contents.relation(relation)
                .orElseThrow(() -> new DeskRefusal(
                        ProblemKind.ROUTE_UNKNOWN,
                        "The source '" + name + "' holds no table or view '" + relation + "'."
                                + Nearest.hint(
                                        relation,
                                        contents.relations().stream()
                                                .map(Relation::name)
                                                .toList())));
        try {
            SampleRows sample = source.sample(found, rows);
            return new SampleView(sample.columns(), sample.rows());
        } catch (SourceFailure e) {
            throw failed(name, e);
        }
    }

    private Source source(String name) {
        return sources.find(name).orElseThrow(() -> unknown(name, List.copyOf(sources.names())));
    }

    private static DeskRefusal unknown(String name, List<String> known) {
        return new DeskRefusal(
                ProblemKind.ROUTE_UNKNOWN,
                "There is no source '" + name + "'." + Nearest.hint(name, known) + " Known here: "
                        + String.join(", ", known) + ".");
    }

    /** Asks a source something. */
    private interface Asking<T> {
        T ask();
    }

    private static <T> T answering(Source source, Asking<T> asking) {
        try {
            return asking.ask();
        } catch (Source.Unreachable e) {
            throw new DeskRefusal(
                    ProblemKind.SOURCE_UNAVAILABLE,
                    "The source does not answer; './tidy source test "
                            + source.settings().name() + "' tells why.");
        }
    }

    private static DeskRefusal failed(String name, SourceFailure e) {
        if (e.kind() == ConditionKind.TIMED_OUT) {
            return new DeskRefusal(ProblemKind.STATEMENT_TIMEOUT, "The sample took too long; look at another table.");
        }
        return e.kind() == ConditionKind.UNREACHABLE
                ? new DeskRefusal(
                        ProblemKind.SOURCE_UNAVAILABLE,
                        "The source does not answer; './tidy source test " + name + "' tells why.")
                : new DeskRefusal(
                        ProblemKind.CONFLICT, "The sample cannot be read; may the source's user select from it?");
    }
}
