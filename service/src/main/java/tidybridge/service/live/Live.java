package tidybridge.service.live;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.answer.ShapedField;
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
    private final Set<String> privileges;
    private final Map<String, RetiredModule> retired;
    private final boolean partial;

    Live(Collection<LiveModule> all, Map<String, RetiredModule> retired, Continuation continuation, MaskKey maskKey) {
        this.retired = Map.copyOf(retired);
        this.partial = all.stream().anyMatch(module -> module.state() == LiveModule.State.PENDING);
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
        changes(all, retired.values()).forEach((name, ofName) -> {
            LiveModule last = ofName.getLast();
            routes.add(PathTemplate.parse("/" + name + "/changes"), new Target.Changes(last, ofName, false));
            routes.add(PathTemplate.parse("/" + name + "/changes.atom"), new Target.Changes(last, ofName, true));
        });
        router = routes.build();
        privileges = privileges(all);
    }

    /** The major versions of each module by its name, those that are retired first. */
    private static Map<String, List<LiveModule>> changes(
            Collection<LiveModule> live, Collection<RetiredModule> retired) {
        Map<String, List<LiveModule>> byName = new TreeMap<>();
        retired.forEach(gone -> byName.computeIfAbsent(gone.retirement().module(), name -> new ArrayList<>())
                .add(gone.module()));
        live.forEach(module -> byName.computeIfAbsent(module.release().module(), name -> new ArrayList<>())
                .add(module));
        return byName;
    }

    private static Set<String> privileges(Collection<LiveModule> all) {
        Set<String> privileges = new TreeSet<>();
        for (ServicePrivilege own : ServicePrivilege.values()) {
            privileges.add(own.privilege());
        }
        for (LiveModule module : all) {
            module.needs().forEach(needs -> privileges.addAll(needs.anyOf()));
            ModulePlan plan = module.plan();
            if (plan != null) {
                plan.operations()
                        .flatMap(operation -> operation.fields().stream())
                        .map(ShapedField::unless)
                        .filter(Objects::nonNull)
                        .forEach(privileges::add);
            }
        }
        return Collections.unmodifiableSet(privileges);
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

    /** True just after the start, while some modules are not compiled yet. */
    public boolean isPartial() {
        return partial;
    }

    /** Matches a path that starts with the slash before the module's name; see {@link Router#match}. */
    public @Nullable Target match(String path, int from, int[] captures) {
        return router.match(path, from, captures);
    }

    /** By {@code moorings/v1}; null when no such module is live. */
    public @Nullable LiveModule module(String identity) {
        return modules.get(identity);
    }

    /** By {@code moorings/v1}; null for what is live, and for what never was. */
    public @Nullable RetiredModule retired(String identity) {
        return modules.containsKey(identity) ? null : retired.get(identity);
    }

    /** What takes the place of a module that is retired: what its text says, or the highest major version that is live; null for nothing. */
    public @Nullable String successor(RetiredModule gone) {
        String said = gone.successor();
        if (said != null && modules.containsKey(said)) {
            return said;
        }
        LiveModule highest = null;
        for (LiveModule module : modules.values()) {
            boolean same = module.release().module().equals(gone.retirement().module());
            if (same
                    && (highest == null
                            || module.release()
                                            .version()
                                            .compareTo(highest.release().version())
                                    > 0)) {
                highest = module;
            }
        }
        return highest == null ? null : highest.identity();
    }

    /** Every privilege that an operation asks for, or that a masked field is shown for, and the service's own. */
    public Set<String> privileges() {
        return privileges;
    }

    /** Ordered by name and major version. */
    public List<LiveModule> modules() {
        return List.copyOf(modules.values());
    }
}
