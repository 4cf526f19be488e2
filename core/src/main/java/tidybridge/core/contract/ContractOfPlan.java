package tidybridge.core.contract;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Admission;
import tidybridge.core.access.CrossOrigin;
import tidybridge.core.definition.BatchRule;
import tidybridge.core.definition.Listing;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.Filter;
import tidybridge.core.plan.HeaderColumn;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.OperationIds;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.StepPlan;
import tidybridge.core.plan.Template;
import tidybridge.core.route.PathTemplate;

/** Reads from a plan what callers are promised. */
final class ContractOfPlan {

    private static final int OK = 200;
    private static final int CREATED = 201;
    private static final int NO_CONTENT = 204;

    private final ModulePlan module;
    private final OperationIds ids;

    ContractOfPlan(ModulePlan module) {
        this.module = module;
        this.ids = OperationIds.of(module);
    }

    Contract contract() {
        return new Contract(
                Contract.FORM,
                module.name(),
                module.version(),
                module.title(),
                module.about(),
                module.listing().equals(Listing.USUAL) ? null : module.listing(),
                admission(module.admission()),
                module.deprecated(),
                module.operations().map(this::operation).toList());
    }

    private static AdmissionTerms admission(Admission admission) {
        CrossOrigin pages = admission.crossOrigin();
        return new AdmissionTerms(
                admission.addresses().written(),
                admission.tls(),
                pages == null ? List.of() : pages.origins().stream().sorted().toList(),
                admission.quota());
    }

    private OperationTerms operation(OperationPlan plan) {
        return new OperationTerms(
                plan.method(),
                plan.path().text(),
                ids.of(plan),
                plan.header().about(),
                plan.needs(),
                plan.quota(),
                plan.header().deprecated(),
                inputs(plan),
                body(plan),
                answer(plan),
                plan instanceof CollectionPlan collection ? page(collection) : null,
                plan instanceof ChangePlan change ? change(change) : null,
                refusals(plan),
                plan.header().assistants());
    }

    /** Those that callers send. */
    private static List<InputTerms> inputs(OperationPlan plan) {
        return plan.parameters().stream()
                .filter(parameter -> switch (parameter.in()) {
                    case PATH, QUERY, HEADER, COOKIE, BODY, FORM -> true;
                    case CALLER, REQUEST -> false;
                })
                .map(InputTerms::of)
                .toList();
    }

    private static BodyTerms body(OperationPlan plan) {
        BatchRule batch = plan instanceof ChangePlan change ? change.batch() : null;
        return new BodyTerms(
                plan.binder().bodyKind(),
                batch == null ? null : new BodyTerms.BatchTerms(batch.most(), batch.outcome()));
    }

    private static AnswerTerms answer(OperationPlan plan) {
        RowReply reply = plan instanceof ReadPlan read ? read.reply() : null;
        return new AnswerTerms(
                plan.answer(),
                plan.status(),
                plan.fields().stream().map(FieldTerms::of).toList(),
                List.copyOf(plan.forms().choices().names()),
                plan.forms().formats(),
                headers(plan),
                reply != null && reply.tag() != null,
                reply != null && reply.modified() >= 0,
                reply == null || reply.fresh() == null
                        ? null
                        : reply.fresh().time().toSeconds(),
                plan instanceof FilePlan file ? file.columns().mediaType() : null,
                results(plan));
    }

    private static List<String> headers(OperationPlan plan) {
        List<HeaderColumn> columns = switch (plan) {
            case ReadPlan read -> read.reply().headers();
            case ChangePlan change -> change.reply().headers();
        };
        return columns.stream().map(HeaderColumn::name).toList();
    }

    private static List<AnswerTerms.ResultTerms> results(OperationPlan plan) {
        StepPlan.CallPlan call =
                plan instanceof ChangePlan change ? change.main().call() : null;
        return call == null
                ? List.of()
                : call.results().stream()
                        .map(set -> new AnswerTerms.ResultTerms(set.name(), set.single()))
                        .toList();
    }

    private static PageTerms page(CollectionPlan plan) {
        Optional<InputTerms> search = plan.filters().all().stream()
                .filter(Filter::isSearch)
                .map(filter -> InputTerms.of(filter.parameter()))
                .findFirst();
        return new PageTerms(
                plan.page().limit(),
                plan.page().most(),
                plan.page().mostOfAll(),
                plan.page().jumps(),
                plan.order().keys().stream()
                        .map(key -> new PageTerms.KeyTerms(key.name(), key.descending()))
                        .toList(),
                List.copyOf(plan.sorts().sortable().lengths().keySet()),
                search.orElse(null),
                plan.filters().all().stream()
                        .filter(filter -> !filter.isSearch())
                        .map(filter -> new PageTerms.FilterTerms(
                                filter.field(), filter.operator(), InputTerms.of(filter.parameter())))
                        .toList(),
                plan.totals().offered().stream().sorted().toList());
    }

    private ChangeTerms change(ChangePlan plan) {
        RowReply state = stateBehind(plan);
        return new ChangeTerms(
                plan.sequence().readOnly(),
                plan.reply().location() != null,
                plan.preview() != null,
                plan.guard() != null,
                plan.precondition(),
                plan.idempotencyKey(),
                state != null && state.tag() != null,
                state != null && state.modified() >= 0);
    }

    /** The read whose state a change tells afterwards: the one at its own route, or where what it made is found. */
    private @Nullable RowReply stateBehind(ChangePlan change) {
        Template location = change.reply().location();
        if (change.reply().status() == CREATED && location != null) {
            String shape = location.shape();
            return module.routes().stream()
                    .filter(route -> PathTemplate.shape(route.path().text()).equals(shape))
                    .flatMap(route -> route.operations().stream())
                    .filter(OneRowPlan.class::isInstance)
                    .map(read -> ((OneRowPlan) read).reply())
                    .findFirst()
                    .orElse(null);
        }
        return change.guard() == null || change.method() == Method.DELETE
                ? null
                : change.guard().reply();
    }

    /** What the definition itself refuses. */
    private static List<RefusalTerms> refusals(OperationPlan plan) {
        List<RefusalRule> rules = new ArrayList<>(plan.conditions().refusals());
        if (plan instanceof ChangePlan change) {
            change.sequence().steps().stream()
                    .map(StepPlan::otherwise)
                    .filter(Objects::nonNull)
                    .forEach(rules::add);
        }
        return rules.stream()
                .map(rule -> new RefusalTerms(rule.status(), rule.code(), rule.message()))
                .toList();
    }
}
