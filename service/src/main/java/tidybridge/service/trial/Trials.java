package tidybridge.service.trial;

import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Caller;
import tidybridge.core.catalog.Access;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Finding;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.Start;
import tidybridge.core.plan.Variant;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.route.PathText;
import tidybridge.core.route.Router;
import tidybridge.engine.ConnectionShare;
import tidybridge.engine.SourceFailure;
import tidybridge.service.gateway.OperationCall;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.run.ChangeWatch;
import tidybridge.service.run.Notice;
import tidybridge.service.run.Refusal;
import tidybridge.service.run.RunnableOperation;

/** Runs an operation of a text that is not published, as its callers would, and shows what they do not see. Thread-safe. */
public final class Trials {

    private final LiveModules modules;
    private final TextCompiler compiler;
    private final Clock clock;

    public Trials(LiveModules modules, TextCompiler compiler, Clock clock) {
        this.modules = modules;
        this.compiler = compiler;
        this.clock = clock;
    }

    /**
     * What to try.
     *
     * @param path with values in the place of placeholders, {@code /berths/17}, or as the text has it, with the values among the inputs
     * @param inputs by name
     * @param body the whole of it as text; null for one put together from the inputs
     * @param watches queries to be asked before and after a change
     * @param caller on whose behalf: values may be taken from it, and fields are masked for whoever lacks their privilege
     * @param showValues whether the bound values are told
     */
    public record Request(
            ModuleText text,
            String method,
            String path,
            Map<String, String> inputs,
            @Nullable String body,
            List<String> watches,
            Caller caller,
            boolean showValues) {}

    /** Nobody in particular, who holds these privileges. */
    public static Caller somebody(Set<String> privileges) {
        return new Caller("trial", null, List.of(), "127.0.0.1", Holdings.of(privileges), Map.of());
    }

    /**
     * Tries an operation.
     *
     * @throws tidybridge.engine.Source.Unreachable when the source does not answer
     */
    public Trial run(Request request) {
        long start = System.nanoTime();
        Narrowing narrowing = new Narrowing(request);
        TextCompiler.Compiled compiled = compiler.compile(request.text(), narrowing);
        long compileMillis = (System.nanoTime() - start) / 1_000_000;
        ModulePlan module = compiled.plan();
        if (module == null || module.routes().isEmpty()) {
            return new Trial(narrowing.label, compiled.findings(), compileMillis, null, null, null);
        }
        OperationPlan plan = module.routes().getFirst().operations().stream()
                .filter(operation -> narrowing.isMeant(operation.method()))
                .findFirst()
                .orElseThrow();
        return run(request, modules.runnable(module, plan), narrowing.captured, compiled, compileMillis);
    }

    /** Leaves of a module the one operation that is tried, and remembers what stood in the place of its placeholders. */
    private static final class Narrowing implements UnaryOperator<ModuleDefinition> {
        private final Request request;
        private List<String> captured = List.of();
        private @Nullable String label;

        Narrowing(Request request) {
            this.request = request;
        }

        @Override
        public ModuleDefinition apply(ModuleDefinition module) {
            Optional<RouteDefinition> route = module.routes().stream()
                    .filter(known -> known.path().equals(request.path()))
                    .findFirst();
            boolean asWritten = route.isPresent();
            if (route.isEmpty()) {
                route = match(module);
            }
            List<RouteDefinition> kept = route.stream().map(this::narrowed).toList();
            if (asWritten) {
                kept.forEach(one -> captured = placeholders(one));
            }
            return module.with(
                    kept.stream().filter(one -> !one.operations().isEmpty()).toList());
        }

        private RouteDefinition narrowed(RouteDefinition route) {
            List<OperationDefinition> operations = route.operations().stream()
                    .filter(operation -> isMeant(operation.method()))
                    .toList();
            if (operations.isEmpty()) {
                return route.with(List.of());
            }
            label = OperationDefinition.label(operations.getFirst().method(), route.path());
            // a change may compare the entity tag of the read beside it
            List<OperationDefinition> kept = new ArrayList<>(operations);
            route.operations().stream()
                    .filter(operation ->
                            operation.method().isSafe() && operation.reply().tagged())
                    .filter(operation -> !operations.contains(operation))
                    .forEach(kept::add);
            return route.with(
                    kept.stream().map(OperationDefinition::withoutPromise).toList());
        }

        boolean isMeant(Method method) {
            return method.name().equalsIgnoreCase(request.method());
        }

        /** The values for the placeholders of a path as the text has it, by their own names or those of their bind parameters. */
        private List<String> placeholders(RouteDefinition route) {
            List<String> texts = new ArrayList<>();
            for (String name : names(route)) {
                String bind = route.operations().stream()
                        .flatMap(operation -> operation.parameters().stream())
                        .filter(parameter -> parameter.in() == In.PATH
                                && parameter.wireName().equals(name))
                        .map(ParameterDefinition::name)
                        .findFirst()
                        .orElse(name);
                String given =
                        request.inputs().getOrDefault(name, request.inputs().getOrDefault(bind, ""));
                texts.add(URLEncoder.encode(given, StandardCharsets.UTF_8).replace("+", "%20"));
            }
            return texts;
        }

        /** None for a broken path, which keeps the operation from being compiled. */
        private static List<String> names(RouteDefinition route) {
            try {
                return PathTemplate.parse(route.path()).placeholders();
            } catch (IllegalArgumentException e) {
                return List.of();
            }
        }

        /** A broken or ambiguous path has a finding of its own, and matches nothing. */
        private static void add(RouteDefinition route, Router.Builder<RouteDefinition> routes) {
            try {
                routes.add(PathTemplate.parse(route.path()), route);
            } catch (IllegalArgumentException e) {
                return;
            }
        }

        private Optional<RouteDefinition> match(ModuleDefinition module) {
            Router.Builder<RouteDefinition> routes = new Router.Builder<>();
            for (RouteDefinition route : module.routes()) {
                add(route, routes);
            }
            String path = PathText.normalize(request.path());
            int[] captures = new int[2 * Router.MOST_CAPTURES];
            RouteDefinition found = routes.build().match(path, 0, captures);
            if (found != null) {
                List<String> texts = new ArrayList<>();
                for (int i = 0; i < names(found).size(); i++) {
                    texts.add(path.substring(captures[2 * i], captures[2 * i + 1]));
                }
                captured = texts;
            }
            return Optional.ofNullable(found);
        }
    }

    private Trial run(
            Request request,
            RunnableOperation operation,
            List<String> captured,
            TextCompiler.Compiled compiled,
            long compileMillis) {
        OperationPlan plan = operation.plan();
        Map<String, String> inputs = new LinkedHashMap<>(request.inputs());
        inputs.keySet().removeAll(plan.path().placeholders());
        plan.parameters().stream()
                .filter(parameter -> parameter.in() == In.PATH)
                .forEach(parameter -> inputs.remove(parameter.name()));
        TrialInputs typed = new TrialInputs(plan, captured, inputs, request.body(), request.caller(), clock.instant());
        MemoryExchange exchange = new MemoryExchange(request.path(), typed.query());
        long start = System.nanoTime();
        String trouble = null;
        Trial.StatementRun statement = null;
        Trial.Rehearsal rehearsal = null;
        Set<Notice> notices = Set.of();
        try (ConnectionShare.Turn turn = operation.source().trials().turn()) {
            if (!turn.await()) {
                throw new Refusal(
                        ProblemKind.BUSY,
                        "As many trials and rehearsals are under way at this database as may be, which are "
                                + operation.source().trials().most() + "; try again in a moment.");
            }
            switch (plan) {
                case ReadPlan read -> {
                    Bound bound = read.binder().bind(typed);
                    statement = statement(operation, read, bound, request.showValues());
                    start = System.nanoTime();
                    new OperationCall(operation, exchange, false).tryOut(typed, ChangeWatch.NOBODY);
                }
                case ChangePlan change -> {
                    RehearsalRun run = new RehearsalRun(operation, change, request.watches());
                    notices = run.notices();
                    start = System.nanoTime();
                    run.run(typed, exchange);
                    rehearsal = run.seen();
                }
            }
        } catch (BadInput e) {
            answer(exchange, e.problem());
        } catch (Refusal e) {
            answer(exchange, e.problem());
        } catch (SourceFailure e) {
            trouble = e.getMessage();
            answer(exchange, plan.conditions().problem(e.condition()));
        } catch (IOException e) {
            throw new IllegalStateException("memory cannot fail", e);
        }
        long millis = (System.nanoTime() - start) / 1_000_000;
        return new Trial(
                plan.label(),
                withNotices(compiled.findings(), notices, plan),
                compileMillis,
                statement,
                exchange.answer(millis, trouble),
                rehearsal);
    }

    /** What the text's check found, and behind it what only running it could show. */
    private static List<Finding> withNotices(List<Finding> findings, Set<Notice> notices, OperationPlan plan) {
        List<Finding> all = new ArrayList<>(findings);
        for (Notice notice : notices) {
            Finding shown = notice.finding(plan);
            if (findings.stream().noneMatch(finding -> finding.code() == shown.code())) {
                all.add(shown);
            }
        }
        return all;
    }

    private static void answer(MemoryExchange exchange, Problem problem) {
        exchange.status(problem.status());
        exchange.contentType(Problem.MEDIA_TYPE);
        byte[] body = problem.json();
        try {
            exchange.out().write(body, 0, body.length);
        } catch (IOException e) {
            throw new IllegalStateException("memory cannot fail", e);
        }
    }

    private static Trial.StatementRun statement(
            RunnableOperation operation, ReadPlan plan, Bound bound, boolean showValues) throws BadInput {
        Variant form = form(plan, bound);
        List<Trial.BoundValue> values = new ArrayList<>();
        List<Object> samples = new ArrayList<>();
        boolean nulls = false;
        for (int slot : form.slots()) {
            Object value = value(slot, bound);
            nulls |= value == null;
            samples.add(value == null ? "" : value);
            String text = showValues && value != null ? text(value) : null;
            values.add(new Trial.BoundValue(name(slot, plan), type(slot, plan), text));
        }
        // a plan for another value than NULL would be another plan
        List<String> sentences = nulls
                ? List.of()
                : operation.source().catalog().explain(form.sql(), samples).stream()
                        .map(Access::sentence)
                        .toList();
        return new Trial.StatementRun(form.sql(), values, sentences);
    }

    private static Variant form(ReadPlan plan, Bound bound) throws BadInput {
        return switch (plan) {
            case CollectionPlan page ->
                page.statement()
                        .variant(
                                bound.values(),
                                page.request(
                                        bound.asked(),
                                        page.sorts().order(bound.asked().sort()).from(Start.BEGINNING),
                                        page.filters().take(bound.values())));
            case OneRowPlan one -> one.statement().variant(bound.values());
        };
    }

    private static @Nullable Object value(int slot, Bound bound) {
        if (slot == Variant.LIMIT) {
            return (long) bound.asked().limit() + 1;
        }
        Object value = slot < 0 ? null : bound.values()[Variant.value(slot)];
        if (value instanceof List<?> list) {
            return Variant.isItem(slot) ? list.get(Math.min(Variant.itemOf(slot), list.size() - 1)) : Bound.text(list);
        }
        return value == Bound.Given.NULL ? null : value;
    }

    private static String text(Object value) {
        return value instanceof byte[] bytes ? bytes.length + " bytes" : value.toString();
    }

    private static String name(int slot, OperationPlan plan) {
        if (slot < 0) {
            return "limit";
        }
        String name = plan.inputs().get(Variant.value(slot)).name();
        return Variant.isItem(slot) ? name + "[" + Variant.itemOf(slot) + "]" : name;
    }

    private static String type(int slot, OperationPlan plan) {
        if (slot < 0) {
            return "integer";
        }
        ParameterDefinition parameter = plan.inputs().get(Variant.value(slot));
        return (parameter.list() == null ? parameter.type() : parameter.list().type()).label();
    }
}
