package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonRawValue;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.Role;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.compare.Comparison;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.compare.TextComparison;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.core.finding.Findings;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.ReleaseEntry;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.desk.ReleaseViews.FileView;
import tidybridge.service.desk.ReleaseViews.ProspectView;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.release.Prospect;
import tidybridge.service.release.Publishing;

/** What became, or would become, of a promise between two texts of a module. */
@RestController
@RequestMapping("/desk/comparisons")
class ComparisonsController {

    private final Publishing publishing;
    private final ModuleTexts texts;
    private final TextCompiler compiler;
    private final Records records;
    private final LiveAccess access;

    ComparisonsController(
            Publishing publishing, ModuleTexts texts, TextCompiler compiler, Records records, LiveAccess access) {
        this.compiler = compiler;
        this.publishing = publishing;
        this.texts = texts;
        this.records = records;
        this.access = access;
    }

    record TextsRequest(
            @Nullable List<ModuleTexts.RoleText> roles,
            @Nullable List<ModuleTexts.TextView> modules) {}

    record ProspectsView(List<ProspectView> modules) {}

    record ComparisonView(
            String name, String from, String to, List<DifferenceNote> differences, List<FileView> files) {}

    /** What publishing some texts would mean; none of them is published. */
    @PostMapping(consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.TRY)
    ResponseEntity<?> look(@RequestBody TextsRequest request) {
        List<Role> known = ModuleTexts.roles(request.roles(), access.now().roles());
        List<TextCompiler.Compiled> compiled = texts.compile(ModuleTexts.of(request.modules()), known);
        if (compiled.stream().anyMatch(module -> module.plan() == null)) {
            return ReleasesController.unfit(compiled);
        }
        ModuleTexts.refuseTwins(compiled);
        return ResponseEntity.ok(new ProspectsView(
                compiled.stream().map(publishing::look).map(this::view).toList()));
    }

    private ProspectView view(Prospect prospect) {
        ReleaseEntry base = prospect.base();
        List<FileView> files = FileView.since(
                records,
                base == null ? null : base.version(),
                prospect.contract().module(),
                prospect.compiled().text());
        return ProspectView.of(prospect, Publishing.objection(prospect, null).orElse(null), files);
    }

    record CatalogView(String folder, @JsonRawValue String catalog) {}

    record CatalogsView(List<CatalogView> catalogs) {}

    /** What the sources hold of that which some texts name; the texts need not fit them. */
    @PostMapping(path = "/catalogs", consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.TRY)
    CatalogsView catalogs(@RequestBody TextsRequest request) {
        List<ModuleText> all = ModuleTexts.of(request.modules());
        compiler.readAnewAfterRest(all.stream()
                .flatMap(text -> ModuleReader.read(text, new Findings()).map(ModuleDefinition::source).stream())
                .collect(Collectors.toSet()));
        return new CatalogsView(all.stream()
                .map(text -> new CatalogView(text.folder(), compiler.facts(text).text()))
                .toList());
    }

    /** Two releases of a module. */
    @GetMapping
    @DeskNeeds(ServicePrivilege.READ)
    ComparisonView compare(
            @RequestParam("module") String module, @RequestParam("from") String from, @RequestParam("to") String to) {
        Release earlier = release(module, from);
        Release later = release(module, to);
        Comparison comparison =
                Comparison.of(contract(earlier), contract(later)).withTexts(earlier.text(), later.text());
        return new ComparisonView(
                module,
                earlier.version().toString(),
                later.version().toString(),
                DifferenceNote.of(comparison),
                FileView.of(TextComparison.of(earlier.text(), later.text())));
    }

    private Release release(String module, String version) {
        return Version.parse(version)
                .flatMap(wanted -> records.releases().find(module, wanted))
                .orElseThrow(() -> new DeskRefusal(
                        ProblemKind.MODULE_UNKNOWN,
                        "No release of that name and version is kept: look into the history."));
    }

    private Contract contract(Release release) {
        return records.releases()
                .kept(release.id())
                .map(kept -> Contract.read(kept.contract()))
                .orElseThrow(
                        () -> new DeskRefusal(
                                ProblemKind.MODULE_UNKNOWN,
                                release.module() + " " + release.version()
                                        + " was published before contracts were kept, and was not live since; make it live once, and it has one."));
    }
}
