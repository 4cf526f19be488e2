package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.Role;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.advise.Proposal;
import tidybridge.core.advise.StatementLook;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.ModuleEdit;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.text.SourceText;
import tidybridge.engine.RehearsalChanges;
import tidybridge.engine.Source;
import tidybridge.engine.Sources;
import tidybridge.records.AuditEntry;
import tidybridge.records.Records;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.DeskPrivileges;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.Visitor;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.release.FindingNote;
import tidybridge.service.run.Refusal;
import tidybridge.service.trial.Trial;
import tidybridge.service.trial.Trials;

/** What somebody asks about texts that are not published: checks, trials, proposals. */
@RestController
@RequestMapping(path = "/desk", consumes = MediaType.APPLICATION_JSON_VALUE)
class TrialsController {

    private final LiveModules modules;
    private final ModuleTexts moduleTexts;
    private final TextCompiler compiler;
    private final Trials trials;
    private final Sources sources;
    private final Records records;
    private final LiveAccess access;
    private final Clock clock;

    TrialsController(
            LiveModules modules,
            ModuleTexts moduleTexts,
            TextCompiler compiler,
            Trials trials,
            Sources sources,
            Records records,
            LiveAccess access,
            Clock clock) {
        this.compiler = compiler;
        this.moduleTexts = moduleTexts;
        this.access = access;
        this.records = records;
        this.clock = clock;
        this.sources = sources;
        this.modules = modules;
        this.trials = trials;
    }

    /**
     * Texts to be looked at.
     *
     * @param roles those of the workspace's text, which count as if they were published; null when it says nothing about roles
     */
    record ChecksRequest(
            @Nullable List<ModuleTexts.TextView> modules,
            @Nullable List<ModuleTexts.RoleText> roles) {}

    record ChecksView(int modules, List<FindingNote> findings) {}

    record TrialRequest(
            ModuleTexts.@Nullable TextView module,
            @Nullable String live,
            @Nullable String method,
            @Nullable String path,
            @Nullable Map<String, String> inputs,
            @Nullable String body,
            @Nullable List<String> watches,
            @Nullable List<String> privileges,
            @Nullable Boolean showValues) {}

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record TrialView(
            @Nullable String label,
            List<FindingNote> findings,
            long compileMillis,
            Trial.@Nullable StatementRun statement,
            Trial.@Nullable Answer answer,
            @Nullable RehearsalView rehearsal) {

        static TrialView of(Trial trial) {
            return new TrialView(
                    trial.label(),
                    FindingNote.of(trial.findings()),
                    trial.compileMillis(),
                    trial.statement(),
                    trial.answer(),
                    trial.rehearsal() == null ? null : RehearsalView.of(trial.rehearsal()));
        }
    }

    record FieldChangeView(
            String name,
            boolean key,
            @Nullable String before,
            @Nullable String after) {}

    record RowChangeView(String kind, List<FieldChangeView> fields) {}

    record TableChangesView(String table, long inserted, long changed, long deleted, List<RowChangeView> rows) {}

    record WatchedView(
            String sql,
            List<String> columns,
            List<List<@Nullable String>> before,
            List<List<@Nullable String>> after) {}

    record RehearsalView(
            List<TableChangesView> tables,
            long written,
            long updated,
            long deleted,
            long heldMillis,
            List<String> notes,
            List<WatchedView> watched) {

        static RehearsalView of(Trial.Rehearsal rehearsal) {
            RehearsalChanges changes = rehearsal.changes();
            return new RehearsalView(
                    changes.tables().stream().map(RehearsalView::table).toList(),
                    changes.written(),
                    changes.updated(),
                    changes.deleted(),
                    changes.heldMillis(),
                    changes.notes(),
                    rehearsal.watched().stream()
                            .map(one -> new WatchedView(one.sql(), one.columns(), one.before(), one.after()))
                            .toList());
        }

        private static TableChangesView table(RehearsalChanges.TableChanges table) {
            return new TableChangesView(
                    table.table(),
                    table.inserted(),
                    table.changed(),
                    table.deleted(),
                    table.rows().stream()
                            .map(row -> new RowChangeView(
                                    Views.label(row.kind()),
                                    row.fields().stream()
                                            .map(field -> new FieldChangeView(
                                                    field.name(), field.key(), field.before(), field.after()))
                                            .toList()))
                            .toList());
        }
    }

    record ProposalView(
            String folder,
            String operation,
            String bind,
            String missing,
            String where,
            String type,
            boolean list,
            String definition,
            boolean written) {}

    record ProposalsView(List<ProposalView> proposals, Map<String, String> texts) {}

    record StatementRequest(
            @Nullable String source, @Nullable String sql) {}

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record BindView(
            String name,
            boolean optional,
            boolean list,
            @Nullable String where,
            String limits) {}

    record ColumnView(String name, String type, boolean nullable) {}

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record StatementView(
            @Nullable String kind,
            @Nullable String trouble,
            int line,
            int column,
            List<BindView> binds,
            List<ColumnView> fields,
            List<String> order) {

        static StatementView of(StatementLook look) {
            return new StatementView(
                    look.kind() == null ? null : Views.label(look.kind()),
                    look.trouble(),
                    look.place() == null ? 0 : look.place().line(),
                    look.place() == null ? 0 : look.place().column(),
                    look.binds().stream()
                            .map(bind -> new BindView(
                                    bind.name(), bind.optional(), bind.list(), bind.where(), bind.limits()))
                            .toList(),
                    look.fields().stream()
                            .map(field -> new ColumnView(field.name(), Views.label(field.type()), field.nullable()))
                            .toList(),
                    look.order());
        }
    }

    /** Looks at a statement while it is being written. */
    @PostMapping("/statements")
    @DeskNeeds(ServicePrivilege.EDIT)
    StatementView look(@RequestBody StatementRequest request) {
        String name = request.source() == null ? "" : request.source();
        String sql = request.sql();
        Source source = sources.find(name).orElse(null);
        if (source == null || sql == null) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "A look needs 'sql' and a 'source' that is known here.");
        }
        try {
            return StatementView.of(StatementLook.of(new SourceText("statement.sql", sql), source.catalog()));
        } catch (Source.Unreachable e) {
            throw unreachable();
        }
    }

    /** Compiles modules against their sources without publishing them; several at once, because each waits for its source. */
    @PostMapping("/checks")
    @DeskNeeds(ServicePrivilege.TRY)
    ChecksView check(@RequestBody ChecksRequest request) {
        List<ModuleText> texts = ModuleTexts.of(request.modules());
        List<Role> roles = ModuleTexts.roles(request.roles(), access.now().roles());
        List<FindingNote> findings = moduleTexts.compile(texts, roles).stream()
                .flatMap(module -> FindingNote.of(module.findings()).stream())
                .toList();
        return new ChecksView(texts.size(), findings);
    }

    @PostMapping("/trials")
    @DeskNeeds(ServicePrivilege.TRY)
    TrialView run(@RequestBody TrialRequest request, HttpServletRequest http) throws Refusal {
        String method = request.method();
        String path = request.path();
        if (method == null || path == null || !path.startsWith("/")) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "A trial needs 'module' or 'live', 'method', and a 'path' that starts with a slash.");
        }
        Map<String, String> inputs = request.inputs() == null ? Map.of() : request.inputs();
        List<String> privileges = request.privileges() == null ? List.of() : request.privileges();
        List<String> watches = request.watches() == null ? List.of() : request.watches();
        if (inputs.values().stream().anyMatch(Objects::isNull)
                || privileges.stream().anyMatch(Objects::isNull)
                || watches.stream().anyMatch(Objects::isNull)) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "'inputs', 'privileges' and 'watches' hold texts; leave out what is not given.");
        }
        boolean safe = method.equalsIgnoreCase(Method.GET.name());
        if (!safe && !Visitor.of(http).holds(ServicePrivilege.REHEARSE)) {
            throw DeskPrivileges.missing(ServicePrivilege.REHEARSE, Visitor.of(http), "Rehearsing a change");
        }
        try {
            Trial trial = trials.run(new Trials.Request(
                    text(request),
                    method,
                    path,
                    inputs,
                    request.body(),
                    watches,
                    Trials.somebody(Set.copyOf(privileges)),
                    Boolean.TRUE.equals(request.showValues())));
            if (!safe) {
                audit(trial, http);
            }
            return TrialView.of(trial);
        } catch (Source.Unreachable e) {
            throw unreachable();
        }
    }

    private ModuleText text(TrialRequest request) {
        String live = request.live();
        if (live == null) {
            if (request.module() == null) {
                throw new DeskRefusal(ProblemKind.BAD_INPUT, "A trial needs 'module', or the name of a 'live' one.");
            }
            return ModuleTexts.of(List.of(request.module())).getFirst();
        }
        LiveModule module = modules.now().module(live);
        if (module == null) {
            throw new DeskRefusal(
                    ProblemKind.MODULE_UNKNOWN, "No module of that name is live; write it as moorings/v1.");
        }
        return module.release().text();
    }

    /** Whoever looks at locks that were held, or at numbers that are missing, finds who rehearsed what. */
    private void audit(Trial trial, HttpServletRequest http) {
        Visitor visitor = Visitor.of(http);
        records.audit()
                .add(new AuditEntry(
                        clock.instant(),
                        visitor.who(),
                        visitor.caller().address(),
                        "rehearse",
                        trial.subject(),
                        trial.outcome()));
    }

    /** Proposes what texts lack, and the texts with it written in, by their folders. */
    @PostMapping("/proposals")
    @DeskNeeds(ServicePrivilege.EDIT)
    ProposalsView propose(@RequestBody ChecksRequest request) {
        List<ProposalView> views = new ArrayList<>();
        Map<String, String> texts = new LinkedHashMap<>();
        try {
            for (ModuleText module : ModuleTexts.of(request.modules())) {
                ModuleEdit edit = new ModuleEdit(module.source(ModuleText.MAIN).text());
                for (Proposal proposal : compiler.propose(module)) {
                    views.add(view(module.folder(), proposal, write(proposal, edit)));
                }
                texts.put(module.folder(), edit.text());
            }
        } catch (Source.Unreachable e) {
            throw unreachable();
        }
        return new ProposalsView(views, texts);
    }

    private static boolean write(Proposal proposal, ModuleEdit edit) {
        return switch (proposal.missing()) {
            case PARAMETER -> edit.add(proposal.operation(), proposal.bind(), proposal.definition());
            case TYPE -> edit.type(proposal.operation(), proposal.bind(), proposal.definition());
        };
    }

    private static ProposalView view(String folder, Proposal proposal, boolean written) {
        return new ProposalView(
                folder,
                proposal.operation(),
                proposal.bind(),
                Views.label(proposal.missing()),
                proposal.where(),
                proposal.type().label(),
                proposal.list(),
                proposal.definition(),
                written);
    }

    private static DeskRefusal unreachable() {
        return new DeskRefusal(
                ProblemKind.SOURCE_UNAVAILABLE,
                "A source does not answer, so nothing can be asked of it; './tidy source test NAME' tells why.");
    }
}
