package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RoutePlan;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.route.Router;

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

    private Compiler(ModuleDefinition module, Catalog catalog, Findings findings, Forms forms) {
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
        return new Compiler(module, catalog, findings, Forms.EVERY_KIND).compile();
    }

    /**
     * Compiles a module that was compiled before with the same text, asking the catalog for nothing but the fields of its answers:
     * every kind of form was tried when it was released, and a service that starts with many modules has no time for it again.
     */
    public static Optional<ModulePlan> compileReleased(ModuleDefinition module, Catalog catalog, Findings findings) {
        return new Compiler(module, catalog, findings, Forms.NONE).compile();
    }

    private Optional<ModulePlan> compile() {
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
        if (forms == Forms.EVERY_KIND) {
            checkAccess();
            new AcceptedFindings(module, catalog, findings).apply();
        }
        if (!complete || findings.errors() > before) {
            return Optional.empty();
        }
        return Optional.of(new ModulePlan(
                module.name(),
                module.version(),
                module.title(),
                module.about(),
                module.source(),
                module.open(),
                routes));
    }

    private void checkAccess() {
        Boolean opened = module.opened();
        if (opened == null) {
            findings.add(
                    Code.ACCESS_UNSAID,
                    module.place(),
                    "The module does not say whether it is open to everybody; it is closed.",
                    "Add 'public: false', so that nobody has to guess.");
        } else if (opened) {
            findings.add(
                    Code.OPEN_TO_EVERYBODY,
                    module.place(),
                    "Anybody may call this module, without a key.",
                    "Remove 'public: true', or accept this with the reason why it is open.");
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
