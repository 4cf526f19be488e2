package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.catalog.Contents;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.core.drafting.Deed;
import tidybridge.core.drafting.DraftChoices;
import tidybridge.core.drafting.Drafting;
import tidybridge.core.drafting.FirstText;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Source;
import tidybridge.engine.Sources;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.DeskPrivileges;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.Visitor;
import tidybridge.service.release.FindingNote;
import tidybridge.service.run.Refusal;

/** Makes the first text of a module from what a source holds, or from what a document tells. Nothing is kept: whoever asks looks at the text, and saves it or not. */
@RestController
@RequestMapping(path = "/desk/first-texts", consumes = MediaType.APPLICATION_JSON_VALUE)
class FirstTextsController {

    private static final int MOST_OBJECTS = 1_000;
    private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9-]{0,62}");

    private final Sources sources;
    private final ModuleTexts moduleTexts;
    private final LiveAccess access;
    private final RehearsedResults results;

    FirstTextsController(Sources sources, ModuleTexts moduleTexts, LiveAccess access, RehearsedResults results) {
        this.results = results;
        this.sources = sources;
        this.moduleTexts = moduleTexts;
        this.access = access;
    }

    /** Everybody, or whoever holds a privilege. */
    record ReachView(@Nullable Boolean everybody, @Nullable String privilege) {}

    record TableView(
            @Nullable String name,
            @Nullable List<@Nullable String> deeds,
            @Nullable List<@Nullable String> columns,
            @Nullable List<@Nullable String> order,
            @Nullable Boolean parents) {}

    /**
     * A statement that somebody has.
     *
     * @param path where it is called; proposed unless it is given
     */
    record StatementView(@Nullable String sql, @Nullable String path) {}

    /**
     * What a text is to hold.
     *
     * @param rehearse true to run procedures once, to see how many result sets they return; all they do is undone
     * @param values of their arguments, by name; the examples of the text unless given
     * @param results how many result sets procedures have, by their names; as far as that is known already
     * @param text one that the operations are added to; a module of its own without
     */
    record FirstTextRequest(
            @Nullable String source,
            @Nullable String module,
            @Nullable String version,
            @Nullable String title,
            @Nullable ReachView reads,
            @Nullable ReachView changes,
            @Nullable List<@Nullable TableView> tables,
            @Nullable List<@Nullable String> routines,
            @Nullable StatementView statement,
            DocumentViews.@Nullable DocumentView document,
            @Nullable Boolean rehearse,
            @Nullable Map<String, @Nullable String> values,
            @Nullable Map<String, @Nullable Integer> results,
            ModuleTexts.@Nullable TextView text) {}

    record NoteView(String subject, String words) {}

    /**
     * What was made.
     *
     * @param document what its operations were taken to mean; null without one
     * @param results how many result sets procedures have, as far as that is known
     */
    record FirstTextView(
            ModuleTexts.TextView text,
            List<String> operations,
            List<NoteView> notes,
            List<FindingNote> findings,
            DocumentViews.@Nullable ReadDocumentView document,
            Map<String, Integer> results) {}

    @PostMapping
    @DeskNeeds(ServicePrivilege.EDIT)
    FirstTextView make(HttpServletRequest http, @RequestBody FirstTextRequest request) throws Refusal {
        DraftChoices choices = choices(request);
        Source source = sources.find(choices.source())
                .orElseThrow(() -> new DeskRefusal(ProblemKind.BAD_INPUT, "'source' names one that is known here."));
        try {
            Contents contents = source.catalog().contents().orElseThrow();
            RehearsedResults.Seen seen = Boolean.TRUE.equals(request.rehearse())
                    ? rehearsed(http, request, choices, source, contents)
                    : new RehearsedResults.Seen(choices.routines(), List.of());
            FirstText first = Drafting.of(choices.withRoutines(seen.routines()), source.catalog(), contents)
                    .with(seen.notes());
            FirstText.Added made = request.text() == null
                    ? first.alone("modules/" + choices.module() + "/v" + major(choices.version()))
                    : first.within(ModuleTexts.of(List.of(request.text())).getFirst());
            return new FirstTextView(
                    new ModuleTexts.TextView(made.text().folder(), made.text().files()),
                    made.operations(),
                    made.notes().stream()
                            .map(note -> new NoteView(note.subject(), note.words()))
                            .toList(),
                    findings(made.text()),
                    DocumentViews.view(choices.document(), first),
                    counts(seen.routines()));
        } catch (Drafting.UnknownObject e) {
            throw new DeskRefusal(ProblemKind.ROW_UNKNOWN, String.valueOf(e.getMessage()));
        } catch (Drafting.Unreadable e) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, String.valueOf(e.getMessage()));
        } catch (Source.Unreachable e) {
            throw new DeskRefusal(
                    ProblemKind.SOURCE_UNAVAILABLE,
                    "The source '" + choices.source()
                            + "' does not answer, so nothing can be made from it; './tidy source test "
                            + choices.source() + "' tells why.");
        }
    }

    private static int known(@Nullable Map<String, @Nullable Integer> results, String routine) {
        Integer known = results == null ? null : results.get(routine);
        return known == null ? 0 : Math.clamp(known, 0, RehearsedResults.MOST);
    }

    private static Map<String, Integer> counts(List<DraftChoices.RoutineChoice> routines) {
        Map<String, Integer> counts = new LinkedHashMap<>();
        routines.stream()
                .filter(routine -> routine.results() > 0)
                .forEach(routine -> counts.put(routine.name(), routine.results()));
        return counts;
    }

    private RehearsedResults.Seen rehearsed(
            HttpServletRequest http, FirstTextRequest request, DraftChoices choices, Source source, Contents contents)
            throws Refusal {
        if (!Visitor.of(http).holds(ServicePrivilege.REHEARSE)) {
            throw DeskPrivileges.missing(ServicePrivilege.REHEARSE, Visitor.of(http), "Running procedures");
        }
        Map<String, String> values = new LinkedHashMap<>();
        if (request.values() != null) {
            request.values().forEach((name, value) -> values.put(name, value == null ? "" : value));
        }
        return results.of(choices, source, contents, values, Visitor.of(http));
    }

    private List<FindingNote> findings(ModuleText text) {
        return moduleTexts.compile(List.of(text), List.copyOf(access.now().roles())).stream()
                .flatMap(module -> FindingNote.of(module.findings()).stream())
                .toList();
    }

    private static int major(String version) {
        return Version.parse(version).map(Version::major).orElse(1);
    }

    private static DraftChoices choices(FirstTextRequest request) {
        String module = request.module() == null ? "" : request.module();
        String version = request.version() == null ? "1.0.0" : request.version();
        String source = request.source();
        List<@Nullable TableView> tables = request.tables() == null ? List.of() : request.tables();
        List<String> routines = DeskRefusal.texts("routines", request.routines());
        List<DraftChoices.StatementChoice> statements = statements(request.statement());
        DraftChoices.DocumentChoice document = DocumentViews.choice(request.document());
        boolean nothing = tables.isEmpty() && routines.isEmpty() && statements.isEmpty() && document == null;
        if (source == null || nothing) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "Send 'source', and one of 'tables', 'routines', 'statement' and 'document'.");
        }
        if (tables.size() + routines.size() > MOST_OBJECTS) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "One text takes " + MOST_OBJECTS + " tables and routines at most.");
        }
        if (request.text() == null
                && (!NAME.matcher(module).matches() || Version.parse(version).isEmpty())) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "'module' has lower-case letters, digits and hyphens and begins with a letter; 'version' is three numbers, 1.0.0.");
        }
        String title = request.title() == null || request.title().isBlank()
                ? module
                : request.title().strip();
        return new DraftChoices(
                module,
                version,
                title,
                source,
                reach(request.reads()),
                reach(request.changes()),
                tables.stream().map(FirstTextsController::table).toList(),
                routines.stream()
                        .map(name -> new DraftChoices.RoutineChoice(name, known(request.results(), name)))
                        .toList(),
                statements,
                document);
    }

    private static List<DraftChoices.StatementChoice> statements(@Nullable StatementView view) {
        if (view == null) {
            return List.of();
        }
        String sql = view.sql();
        String path = view.path() == null ? "" : view.path();
        if (sql == null || sql.isBlank() || !(path.isEmpty() || path.matches("/\\S*"))) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "'statement' needs 'sql'; its 'path' begins with a slash and has no spaces.");
        }
        return List.of(new DraftChoices.StatementChoice(sql, path));
    }

    private static DraftChoices.@Nullable Reach reach(@Nullable ReachView view) {
        if (view == null) {
            return null;
        }
        String privilege = view.privilege();
        if (privilege != null) {
            return new DraftChoices.Reach.Holders(privilege);
        }
        return Boolean.TRUE.equals(view.everybody()) ? new DraftChoices.Reach.Everybody() : null;
    }

    private static DraftChoices.TableChoice table(@Nullable TableView view) {
        String name = view == null ? null : view.name();
        if (view == null || name == null) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "Each of 'tables' needs its 'name'.");
        }
        return new DraftChoices.TableChoice(
                name,
                deeds(view.deeds()),
                DeskRefusal.texts("columns", view.columns()),
                DeskRefusal.texts("order", view.order()),
                Boolean.TRUE.equals(view.parents()));
    }

    private static Set<Deed> deeds(@Nullable List<@Nullable String> labels) {
        if (labels == null) {
            return EnumSet.allOf(Deed.class);
        }
        Set<Deed> deeds = EnumSet.noneOf(Deed.class);
        for (String label : DeskRefusal.texts("deeds", labels)) {
            deeds.add(Arrays.stream(Deed.values())
                    .filter(deed -> Views.label(deed).equals(label))
                    .findAny()
                    .orElseThrow(() ->
                            new DeskRefusal(ProblemKind.BAD_INPUT, "'deeds' are list, read, add, change and remove.")));
        }
        return deeds;
    }
}
