package tidybridge.service.live;

import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.definition.Method;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RoutePlan;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.route.Router;
import tidybridge.engine.Source;
import tidybridge.service.run.ModuleStates;
import tidybridge.service.run.RunnableOperation;

/** Everything live at one moment, as one immutable whole: a request that began with it ends with it. */
public final class Live {

    private final Map<String, LiveModule> modules = new TreeMap<>();
    private final Router<Target> router;

    Live(Collection<LiveModule> all, Continuation continuation, MaskKey maskKey) {
        Router.Builder<Target> routes = new Router.Builder<>();
        for (LiveModule module : all) {
            modules.put(module.identity(), module);
            ModulePlan plan = module.plan();
            Source source = module.source();
            if (plan != null && source != null) {
                ModuleStates states = ModuleStates.of(plan, maskKey);
                add(
                        routes,
                        module,
                        plan,
                        operation -> RunnableOperation.of(operation, states, source, continuation, maskKey));
            }
        }
        router = routes.build();
    }

    private static void add(
            Router.Builder<Target> routes,
            LiveModule module,
            ModulePlan plan,
            Function<OperationPlan, RunnableOperation> running) {
        String major = "v" + plan.version().major();
        routes.add(PathTemplate.parse("/openapi.json").under(plan.name(), major), new Target.Reference(module, false));
        routes.add(PathTemplate.parse("/openapi.yaml").under(plan.name(), major), new Target.Reference(module, true));
        for (RoutePlan route : plan.routes()) {
            Map<Method, RunnableOperation> byMethod = new EnumMap<>(Method.class);
            route.operations().forEach(operation -> byMethod.put(operation.method(), running.apply(operation)));
            if (!byMethod.isEmpty()) {
                routes.add(
                        route.path().under(plan.name(), major),
                        new Target.Operations(module, byMethod, allow(byMethod.keySet())));
            }
        }
    }

    /** HEAD comes with GET, and OPTIONS with everything. */
    private static String allow(Set<Method> methods) {
        List<String> names = new ArrayList<>();
        for (Method method : methods) {
            names.add(method.name());
            if (method == Method.GET) {
                names.add("HEAD");
            }
        }
        names.add("OPTIONS");
        return String.join(", ", names);
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
