package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Needs;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.pattern.TextPattern;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.StepPlan;
import tidybridge.core.reference.OwnParameters;
import tidybridge.records.Release;
import tidybridge.service.live.LiveModule;
import tidybridge.service.node.Nodes;
import tidybridge.service.release.Drift;
import tidybridge.service.release.FindingNote;

/** What the management API shows, as its OpenAPI document describes it. Absent values are left out. */
final class Views {

    private Views() {}

    /** Whether anybody may call all of some operations, or some of them; otherwise whether somebody may be given the right to. */
    static String access(List<Needs> needs) {
        if (!needs.isEmpty() && needs.stream().allMatch(Needs::open)) {
            return "open";
        }
        return needs.stream().anyMatch(Needs::open)
                ? "partly-open"
                : privileges(needs).isEmpty() ? "closed" : "protected";
    }

    private static List<String> privileges(List<Needs> needs) {
        return needs.stream()
                .flatMap(one -> one.anyOf().stream())
                .distinct()
                .sorted()
                .toList();
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ModuleView(
            String name,
            int major,
            String version,
            @Nullable String title,
            @Nullable String about,
            @Nullable String source,
            String access,
            List<String> needs,
            @Nullable DeprecationView deprecated,
            String basePath,
            boolean served,
            @Nullable String trouble,
            List<Nodes.Elsewhere> elsewhere,
            List<DriftNoteView> drift,
            String publishedBy,
            Instant publishedAt,
            String hash,
            List<OperationView> operations,
            List<FindingNote> findings) {

        static ModuleView of(LiveModule module, @Nullable Drift drift, List<Nodes.Elsewhere> elsewhere) {
            Release release = module.release();
            ModulePlan plan = module.plan();
            return new ModuleView(
                    release.module(),
                    release.version().major(),
                    release.version().toString(),
                    plan == null ? null : plan.title(),
                    plan == null ? null : plan.about(),
                    plan == null ? null : plan.source(),
                    Views.access(module.needs()),
                    Views.privileges(module.needs()),
                    plan == null ? null : DeprecationView.of(plan.deprecated()),
                    "/api/" + module.identity(),
                    plan != null,
                    module.trouble(),
                    elsewhere,
                    DriftNoteView.of(drift),
                    release.publishedBy(),
                    release.publishedAt(),
                    release.hash(),
                    plan == null ? List.of() : operationsOf(plan),
                    FindingNote.of(module.findings()));
        }
    }

    /** A contract has the operations of its plan in the same order. */
    private static List<OperationView> operationsOf(ModulePlan plan) {
        List<OperationTerms> terms = Contract.of(plan).operations();
        List<OperationPlan> plans = plan.operations().toList();
        List<OperationView> views = new ArrayList<>();
        for (int i = 0; i < plans.size(); i++) {
            views.add(OperationView.of(plans.get(i), terms.get(i)));
        }
        return views;
    }

    /** Something about which the database no longer fits; without an operation it concerns the module as a whole. */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record DriftNoteView(@Nullable String operation, boolean breaking, String words) {
        static List<DriftNoteView> of(@Nullable Drift drift) {
            return drift == null
                    ? List.of()
                    : drift.notes().stream()
                            .map(note -> new DriftNoteView(note.operation(), note.breaking(), note.words()))
                            .toList();
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record DeprecationView(
            @Nullable LocalDate since,
            @Nullable LocalDate ends,
            @Nullable String successor) {
        static @Nullable DeprecationView of(@Nullable Deprecation deprecated) {
            return deprecated == null
                    ? null
                    : new DeprecationView(deprecated.since(), deprecated.ends(), deprecated.successor());
        }
    }

    record StepView(String name, String sqlFile, String sql) {
        static StepView of(StepPlan step) {
            return new StepView(
                    step.name(), step.statement().file(), step.statement().text());
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record OperationView(
            String method,
            String path,
            @Nullable String about,
            String answer,
            String sqlFile,
            String sql,
            List<StepView> steps,
            String access,
            List<String> needs,
            @Nullable DeprecationView deprecated,
            boolean changes,
            boolean batch,
            List<ParameterView> parameters,
            List<ParameterView> filters,
            List<FieldView> fields,
            List<OrderView> order,
            @Nullable PageView page,
            OffersView offers,
            long timeoutMillis) {

        static OperationView of(OperationPlan plan, OperationTerms terms) {
            return new OperationView(
                    plan.method().name(),
                    plan.path().text(),
                    plan.header().about(),
                    label(plan.answer()),
                    plan.header().sqlFile(),
                    plan.header().sql(),
                    steps(plan),
                    Views.access(List.of(plan.needs())),
                    plan.needs().anyOf(),
                    DeprecationView.of(plan.header().deprecated()),
                    plan instanceof ChangePlan change && !change.sequence().readOnly(),
                    plan instanceof ChangePlan change && change.batch() != null,
                    Stream.concat(
                                    plan.parameters().stream().map(ParameterView::of),
                                    OwnParameters.of(terms).stream().map(ParameterView::own))
                            .toList(),
                    filters(plan),
                    plan.fields().stream().map(FieldView::of).toList(),
                    order(plan),
                    plan instanceof CollectionPlan collection
                            ? new PageView(
                                    collection.page().limit(), collection.page().most())
                            : null,
                    OffersView.of(plan),
                    plan.timeout().toMillis());
        }

        private static List<StepView> steps(OperationPlan plan) {
            return switch (plan) {
                case ReadPlan read ->
                    List.of(new StepView(
                            "", read.header().sqlFile(), read.header().sql()));
                case ChangePlan change ->
                    change.sequence().steps().stream().map(StepView::of).toList();
            };
        }

        private static List<ParameterView> filters(OperationPlan plan) {
            return plan instanceof CollectionPlan collection
                    ? collection.filters().all().stream()
                            .filter(filter -> !filter.isSearch())
                            .map(filter -> ParameterView.of(filter.parameter()))
                            .toList()
                    : List.of();
        }

        private static List<OrderView> order(OperationPlan plan) {
            return plan instanceof CollectionPlan collection
                    ? collection.order().keys().stream()
                            .map(key -> new OrderView(key.name(), key.descending()))
                            .toList()
                    : List.of();
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ParameterView(
            String name,
            String bind,
            String in,
            String type,
            @Nullable String itemType,
            boolean required,
            @Nullable String about,
            @Nullable String defaultText,
            @Nullable String example,
            @Nullable BigDecimal minimum,
            @Nullable BigDecimal maximum,
            @Nullable Integer minLength,
            @Nullable Integer maxLength,
            @Nullable String pattern,
            List<String> allowed,
            @Nullable Boolean own) {

        /** What the service itself understands. */
        static ParameterView own(InputTerms input) {
            return new ParameterView(
                    input.name(),
                    input.name(),
                    label(input.in()),
                    input.type().label(),
                    null,
                    input.required(),
                    input.about(),
                    input.usual(),
                    input.example(),
                    input.limits().minimum(),
                    input.limits().maximum(),
                    input.limits().minLength(),
                    input.limits().maxLength(),
                    input.limits().pattern(),
                    input.limits().allowed(),
                    true);
        }

        /** A parameter of the operation's own. */
        static ParameterView of(ParameterDefinition parameter) {
            TextPattern pattern = parameter.constraints().pattern();
            return new ParameterView(
                    parameter.wireName(),
                    parameter.name(),
                    label(parameter.in()),
                    parameter.type().label(),
                    parameter.list() == null ? null : parameter.list().type().label(),
                    parameter.required(),
                    parameter.about(),
                    parameter.defaultText(),
                    parameter.example(),
                    parameter.constraints().minimum(),
                    parameter.constraints().maximum(),
                    parameter.constraints().minLength(),
                    parameter.constraints().maxLength(),
                    pattern == null ? null : pattern.text(),
                    parameter.list() == null ? parameter.constraints().allowed() : List.of(),
                    null);
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record FieldView(
            String name,
            String type,
            boolean nullable,
            boolean masked,
            @Nullable String about) {
        static FieldView of(ShapedField field) {
            return new FieldView(
                    field.name(), label(field.type()), field.nullable(), field.mask() != null, field.about());
        }
    }

    record OrderView(String field, boolean descending) {}

    record PageView(int limit, int most) {}

    record OffersView(List<String> sorts, List<String> fields, List<String> formats, boolean all) {
        static OffersView of(OperationPlan plan) {
            return new OffersView(
                    plan instanceof CollectionPlan page
                            ? List.copyOf(page.sorts().sortable().lengths().keySet())
                            : List.of(),
                    List.copyOf(plan.forms().choices().names()),
                    plan.forms().formats().stream()
                            .filter(format -> format != RowFormat.JSON)
                            .map(RowFormat::label)
                            .toList(),
                    plan instanceof CollectionPlan page && page.page().offersAll());
        }
    }

    /** A constant as the management API writes it. */
    static String label(Enum<?> constant) {
        return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
