package tidybridge.service.live;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RoutePlan;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.route.Router;
import tidybridge.engine.Source;

/** Everything live at one moment, as one immutable whole: a request that began with it ends with it. */
public final class Live {

    private final Map<String, LiveModule> modules = new TreeMap<>();
    private final Router<Target> router;

    Live(Collection<LiveModule> all, Continuation continuation) {
        Router.Builder<Target> routes = new Router.Builder<>();
        for (LiveModule module : all) {
            modules.put(module.identity(), module);
            ModulePlan plan = module.plan();
            Source source = module.source();
            if (plan != null && source != null) {
                add(routes, module, plan, source, continuation);
            }
        }
        router = routes.build();
    }

    private static void add(
            Router.Builder<Target> routes,
            LiveModule module,
            ModulePlan plan,
            Source source,
            Continuation continuation) {
        String major = "v" + plan.version().major();
        routes.add(PathTemplate.parse("/openapi.json").under(plan.name(), major), new Target.Reference(module, false));
        routes.add(PathTemplate.parse("/openapi.yaml").under(plan.name(), major), new Target.Reference(module, true));
        for (RoutePlan route : plan.routes()) {
            for (OperationPlan operation : route.operations()) {
                Running running = new Running(operation, source, new RowWriter(operation.fields()), continuation);
                routes.add(
                        route.path().under(plan.name(), major),
                        new Target.Operations(module, running, String.join(", ", Target.READING)));
            }
        }
    }

    /** Matches a path that starts with the slash before the module's name; see {@link Router#match}. */
    public @Nullable Target match(String path, int from, int[] captures) {
        return router.match(path, from, captures);
    }

    /** By {@code moorings/v1}; null when no such module is live. */
    public @Nullable LiveModule module(String identity) {
        return modules.get(identity);
    }

    /** Ordered by name and major version. */
    public List<LiveModule> modules() {
        return List.copyOf(modules.values());
    }
}
