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
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.Caller;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sample.RecordedExample;
import tidybridge.engine.ConnectionShare;
import tidybridge.engine.SourceFailure;
import tidybridge.service.gateway.OperationCall;
import tidybridge.service.run.ChangeWatch;
import tidybridge.service.run.Refusal;
import tidybridge.service.run.RunnableOperation;

/**
 * Calls operations that only read, with the examples of their texts, as somebody unknown would: what is masked for anybody is masked in what
 * comes back. Thread-safe.
 */
public final class ExampleRun {

    /** Rows of a page that is shown. */
    private static final int ROWS = 3;

    private static final int OK = 200;
    private static final String HERE = "127.0.0.1";

    private final Clock clock;

    public ExampleRun(Clock clock) {
        this.clock = clock;
    }

    /**
     * Calls one.
     *
     * @return empty for what is not called: a change, a file, an answer without content, and what needs an input that has no example
     * @throws SourceFailure when the source does not answer
     * @throws Refusal when the source has no connection to spare for it
     */
    public Optional<RecordedExample> run(RunnableOperation operation) throws SourceFailure, Refusal {
        OperationPlan plan = operation.plan();
        if (!(plan instanceof ReadPlan) || plan instanceof FilePlan || plan instanceof NothingPlan) {
            return Optional.empty();
        }
        Map<String, String> inputs = new LinkedHashMap<>();
        Map<String, String> placeholders = new LinkedHashMap<>();
        for (ParameterDefinition parameter : plan.parameters()) {
            String value = value(parameter);
            if (parameter.in() == In.PATH) {
                placeholders.put(parameter.wireName(), value == null ? "" : value);
            } else if (parameter.required() && parameter.in() != In.CALLER && parameter.in() != In.REQUEST) {
                inputs.put(parameter.wireName(), value == null ? "" : value);
            }
        }
        if (inputs.containsValue("") || placeholders.containsValue("")) {
            return Optional.empty();
        }
        if (plan instanceof CollectionPlan rows && rows.page().most() >= ROWS) {
            inputs.put(Binder.LIMIT, String.valueOf(ROWS));
        }
        List<String> captured = new ArrayList<>();
        String path = plan.path().text();
        for (String name : plan.path().placeholders()) {
            String encoded = URLEncoder.encode(placeholders.getOrDefault(name, ""), StandardCharsets.UTF_8)
                    .replace("+", "%20");
            captured.add(encoded);
            path = path.replace("{" + name + "}", encoded);
        }
        TrialInputs typed = new TrialInputs(plan, captured, inputs, null, Caller.unknown(HERE), clock.instant());
        return Optional.of(run(operation, typed, path));
    }

    private static @Nullable String value(ParameterDefinition parameter) {
        if (parameter.example() != null) {
            return parameter.example();
        }
        List<String> allowed = parameter.constraints().allowed();
        return parameter.defaultText() != null
                ? parameter.defaultText()
                : allowed.isEmpty() ? null : allowed.getFirst();
    }

    private static RecordedExample run(RunnableOperation operation, TrialInputs inputs, String path)
            throws SourceFailure, Refusal {
        OperationPlan plan = operation.plan();
        String query = inputs.query();
        MemoryExchange exchange = new MemoryExchange("/api/" + plan.header().module() + path, query);
        String call = query == null ? path : path + "?" + query;
        try (ConnectionShare.Turn turn = operation.source().trials().turn()) {
            if (!turn.await()) {
                throw new Refusal(ProblemKind.BUSY, ProblemKind.BUSY.meaning());
            }
            new OperationCall(operation, exchange, false).tryOut(inputs, ChangeWatch.NOBODY);
            Trial.Answer answer = exchange.answer(0, null);
            boolean good =
                    answer.status() == OK && !answer.cut() && answer.body().length() <= RecordedExample.LONGEST;
            return new RecordedExample(label(plan), call, answer.status(), good ? answer.body() : null, false);
        } catch (BadInput e) {
            return refused(plan, call, e.problem().status());
        } catch (Refusal e) {
            if (e.problem().kind().isWorthRepeating()) {
                throw e;
            }
            return refused(plan, call, e.problem().status());
        } catch (SourceFailure e) {
            if (e.kind() == ConditionKind.UNREACHABLE) {
                throw e;
            }
            return refused(plan, call, plan.conditions().problem(e.condition()).status());
        } catch (IOException e) {
            throw new IllegalStateException("memory cannot fail", e);
        }
    }

    /** {@code GET /berths}, as the contract calls it. */
    public static String label(OperationPlan plan) {
        return plan.method() + " " + plan.path().text();
    }

    private static RecordedExample refused(OperationPlan plan, String call, int status) {
        return new RecordedExample(label(plan), call, status, null, false);
    }
}
