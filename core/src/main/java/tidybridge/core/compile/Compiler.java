package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Role;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationIds;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RoutePlan;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.route.Router;
import tidybridge.core.text.Place;

/** Compiles a module's definition against a catalog. */
public final class Compiler {

    /** Names below a module that the service answers by itself. */
    private static final Set<String> RESERVED = Set.of("openapi.json", "openapi.yaml");

    private final ModuleDefinition module;
    private final Catalog catalog;
    private final Findings findings;
    private final Forms forms;

    /** Which forms of a statement the catalog is asked about, beside the fields of its answer. */
    enum Forms {
        EVERY_KIND,
        NONE
    }

    /**
     * What else is known where a module is compiled.
     *
     * @param published what the operations of the module it replaces are called in its reference, by {@code moorings/v1 GET /berths}; empty
     *     when it replaces none
     * @param roles all there are; null when that is not known
     */
    public record Known(
            Map<String, String> published, @Nullable Collection<Role> roles) {

        /** Nothing else. */
        public static final Known NOTHING = new Known(Map.of(), null);

        public Known {
            published = Map.copyOf(published);
            roles = roles == null ? null : List.copyOf(roles);
        }
    }

    /** Every route is compared with every other one. */
    private static final int MOST_ROUTES = 5_000;

    private final Known known;

    private Compiler(ModuleDefinition module, Catalog catalog, Findings findings, Forms forms, Known known) {
        this.known = known;
        this.forms = forms;
        this.module = module;
        this.catalog = catalog;
        this.findings = findings;
    }

    /**
     * Compiles a module; everything unfit becomes a finding.
     *
     * @return the plan, or empty when an error was found or the catalog is {@link Catalog#offline()}
     */
    public static Optional<ModulePlan> compile(ModuleDefinition module, Catalog catalog, Findings findings) {
        return compile(module, catalog, findings, Known.NOTHING);
    }

    /** The same where more is known. */
    public static Optional<ModulePlan> compile(
            ModuleDefinition module, Catalog catalog, Findings findings, Known known) {
        return new Compiler(module, catalog, findings, Forms.EVERY_KIND, known).compile();
    }

    /**
     * Compiles a module that was compiled before with the same text, asking the catalog for nothing but the fields of its answers:
     * every kind of form was tried when it was released, and a service that starts with many modules has no time for it again.
     */
    public static Optional<ModulePlan> compileReleased(ModuleDefinition module, Catalog catalog, Findings findings) {
        return new Compiler(module, catalog, findings, Forms.NONE, Known.NOTHING).compile();
    }

    private Optional<ModulePlan> compile() {
        if (module.routes().size() > MOST_ROUTES) {
            findings.add(
                    Code.ROUTES_TOO_MANY,
                    module.place(),
                    "The module has " + module.routes().size() + " routes; " + MOST_ROUTES + " are compiled at most.",
                    "Put some of them in a module of their own.");
            return Optional.empty();
        }
        int before = findings.errors();
        List<PathTemplate> paths = new ArrayList<>();
        List<RoutePlan> routes = new ArrayList<>();
        boolean complete = true;
        for (RouteDefinition route : module.routes()) {
            PathTemplate path = path(route, paths);
            if (path == null) {
                continue;
            }
            List<OperationPlan> operations = new RouteCompiler(module, route, path, catalog, findings, forms).compile();
            complete &= operations.size() == route.operations().size();
            routes.add(new RoutePlan(path, operations));
        }
        ModulePlan plan = plan(routes);
        AcceptedFindings accepted = new AcceptedFindings(module, catalog, known, findings);
        if (forms == Forms.EVERY_KIND) {
            new AccessCheck(module, known.roles(), findings).check();
            checkIds();
            DeprecationCheck.check("The module", module.place(), module.deprecated(), findings);
            if (complete) {
                checkRenamed(plan);
            }
            accepted.apply();
        } else {
            accepted.accept();
        }
        return complete && findings.errors() == before ? Optional.of(plan) : Optional.empty();
    }

    private ModulePlan plan(List<RoutePlan> routes) {
        return new ModulePlan(
                module.name(),
                module.version(),
                module.title(),
                module.about(),
                module.listing(),
                module.source(),
                module.admission(),
                module.deprecated(),
                module.asksReview(),
                routes);
    }

    /** Client code is made of these names. */
    private void checkRenamed(ModulePlan plan) {
        OperationIds.of(plan).byLabel().forEach((label, id) -> {
            String before = known.published().get(label);
            if (before != null && !before.equals(id)) {
                String operation = label.substring(plan.identity().length() + 1);
                findings.of(
                        operation,
                        () -> findings.add(
                                Code.OPERATION_RENAMED,
                                place(operation),
                                "The reference calls it '" + id + "' now and '" + before
                                        + "' in what is live, so client code made from it no longer fits.",
                                "Write 'id: " + before + "' under the operation, or accept this with the reason."));
            }
        });
    }

    private Place place(String label) {
        return module.routes().stream()
                .flatMap(route -> route.operations().stream()
                        .filter(operation -> OperationDefinition.label(operation.method(), route.path())
                                .equals(label))
                        .map(OperationDefinition::place))
                .findFirst()
                .orElse(module.place());
    }

    /** Case does not count: client code is made of these names in languages where it does not. */
    private void checkIds() {
        Set<String> known = new HashSet<>();
        for (RouteDefinition route : module.routes()) {
            for (OperationDefinition operation : route.operations()) {
                String id = operation.id();
                if (id != null && !known.add(id.toLowerCase(Locale.ROOT))) {
                    findings.of(
                            OperationDefinition.label(operation.method(), route.path()),
                            () -> findings.add(
                                    Code.OPERATION_ID_TWICE,
                                    operation.place(),
                                    "Another operation of the module is called '" + id + "' too.",
                                    "Give one of them another 'id:'."));
                }
            }
        }
    }

    private @Nullable PathTemplate path(RouteDefinition route, List<PathTemplate> before) {
        PathTemplate path;
        try {
            path = PathTemplate.parse(route.path());
        } catch (IllegalArgumentException e) {
            findings.add(
                    Code.ROUTE_BROKEN,
                    route.place(),
                    "The route '" + route.path() + "' cannot be read: " + e.getMessage() + ".",
                    "Write it as '/berths' or '/berths/{berthId}'.");
            return null;
        }
        if (path.placeholders().size() > Router.MOST_CAPTURES) {
            findings.add(
                    Code.ROUTE_BROKEN,
                    route.place(),
                    "The route has more than " + Router.MOST_CAPTURES + " placeholders.",
                    "Make some of them query parameters.");
            return null;
        }
        if (path.segments().size() == 1
                && RESERVED.contains(path.segments().getFirst().text())) {
            findings.add(
                    Code.ROUTE_RESERVED,
                    route.place(),
                    "The route '" + route.path() + "' is where the module's reference is served.",
                    "Choose another path.");
        }
        for (PathTemplate other : before) {
            if (path.ambiguousWith(other)) {
                findings.add(
                        Code.ROUTE_AMBIGUOUS,
                        route.place(),
                        "The routes '" + route.path() + "' and '" + other.text() + "' match the same path.",
                        "Make them differ in a literal segment, or put their operations under one route.");
            }
        }
        before.add(path);
        return path;
    }
}
