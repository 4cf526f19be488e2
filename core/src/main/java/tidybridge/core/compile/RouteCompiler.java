package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.route.PathTemplate;

/**
 * Compiles the operations of a route: reads first, because a change compares the entity tag that the read of its own route tells. What is
 * read and what is changed is the same thing.
 */
final class RouteCompiler {

    private final ModuleDefinition module;
    private final RouteDefinition route;
    private final PathTemplate path;
    private final Catalog catalog;
    private final Findings findings;
    private final Compiler.Forms forms;

    RouteCompiler(
            ModuleDefinition module,
            RouteDefinition route,
            PathTemplate path,
            Catalog catalog,
            Findings findings,
            Compiler.Forms forms) {
        this.module = module;
        this.route = route;
        this.path = path;
        this.catalog = catalog;
        this.findings = findings;
        this.forms = forms;
    }

    /** The plans of those operations that could be compiled, in the order of the text. */
    List<OperationPlan> compile() {
        Map<OperationDefinition, OperationPlan> compiled = new LinkedHashMap<>();
        List<OperationDefinition> readsFirst = route.operations().stream()
                .sorted(Comparator.comparing(operation -> operation.method().isSafe() ? 0 : 1))
                .toList();
        List<RowPlan> guards = new ArrayList<>();
        for (OperationDefinition operation : readsFirst) {
            findings.of(OperationDefinition.label(operation.method(), route.path()), () -> {
                RowPlan guard = guards.isEmpty() ? null : guards.getFirst();
                OperationScope scope = new OperationScope(module, route, path, operation, catalog, findings, forms);
                OperationPlan plan = new OperationCompiler(scope, guard).compile();
                if (plan != null) {
                    compiled.put(operation, plan);
                }
                if (plan instanceof RowPlan row && tellsStates(row)) {
                    guards.add(row);
                }
            });
        }
        if (guards.isEmpty() && compiled.size() == route.operations().size()) {
            route.operations().forEach(this::checkPrecondition);
        }
        return route.operations().stream()
                .map(compiled::get)
                .filter(Objects::nonNull)
                .toList();
    }

    /** A read of one row with a tag or a time, for which nothing but the path must be known. */
    private static boolean tellsStates(RowPlan read) {
        return read.method().isSafe()
                && read.reply().tellsState()
                && read.parameters().stream().noneMatch(RouteCompiler::mustBeSent);
    }

    private static boolean mustBeSent(ParameterDefinition parameter) {
        return parameter.in() != In.PATH && parameter.required();
    }

    private void checkPrecondition(OperationDefinition operation) {
        if (operation.change().precondition() != null) {
            findings.add(
                    Code.CHANGE_UNFIT,
                    operation.place(),
                    "The route has no get whose answer carries an entity tag, so no state can be compared.",
                    "Write 'tag: { column: version }' or 'tag: representation' under a get that answers with a row.");
        }
    }
}
