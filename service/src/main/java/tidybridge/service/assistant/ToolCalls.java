package tidybridge.service.assistant;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import tidybridge.core.assistant.BadArgument;
import tidybridge.core.assistant.Tool;
import tidybridge.core.assistant.ToolRequest;
import tidybridge.core.bind.Caller;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.RehearsalChanges;
import tidybridge.engine.Source;
import tidybridge.records.AuditEntry;
import tidybridge.records.Records;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.gateway.GatewayServlet;
import tidybridge.service.live.LiveModule;
import tidybridge.service.quota.Quotas;
import tidybridge.service.run.Refusal;
import tidybridge.service.traffic.RequestId;
import tidybridge.service.trial.Trial;
import tidybridge.service.trial.Trials;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.util.RawValue;

/** Does what a tool stands for: the operation's own call, as if it had come by itself, or a rehearsal of it. Thread-safe. */
public final class ToolCalls {

    private static final int FIRST_ERROR = 400;

    /** An answer is held once as it came and twice within the answer to the message, once with its quotation marks escaped. */
    private static final int HELD_TIMES = 4;

    /** What an answer says beside its body, and an assistant may need. */
    private static final List<String> TOLD = List.of("ETag", "Location", "Deprecation", "Sunset", "Retry-After");

    private final GatewayServlet gateway;
    private final Trials trials;
    private final Quotas quotas;
    private final Records records;
    private final Clock clock;

    public ToolCalls(GatewayServlet gateway, Trials trials, Quotas quotas, Records records, Clock clock) {
        this.gateway = gateway;
        this.trials = trials;
        this.quotas = quotas;
        this.records = records;
        this.clock = clock;
    }

    /** The message that asks for a tool, and who sends it. */
    record Asked(
            LiveModule module,
            Caller caller,
            HttpServletRequest request,
            HttpServletResponse response,
            BytesInFlight.Share share) {}

    /**
     * Does it.
     *
     * @return the result as the protocol has it
     * @throws Refusal when a credential is needed first
     */
    ObjectNode run(Tool tool, ObjectNode arguments, Asked asked) throws Refusal, IOException {
        try {
            ToolRequest request = ToolRequest.of(tool, arguments);
            return tool.rehearsal() ? rehearse(tool, request, asked) : call(tool, request, asked);
        } catch (BadArgument e) {
            return failed(e.words());
        }
    }

    private ObjectNode call(Tool tool, ToolRequest request, Asked asked) throws Refusal, IOException {
        ToolHttpResponse answer = new ToolHttpResponse(asked.response());
        try {
            gateway.call(
                    new ToolHttpRequest(
                            asked.request(), "/api/" + asked.module().identity(), request),
                    answer);
        } catch (IOException e) {
            return failed(
                    answer.isTooLarge()
                            ? "The answer is larger than " + ToolHttpResponse.LARGEST_BYTES / 1024
                                    + " KiB, more than a tool gives; ask for fewer rows or fields."
                            : "The answer was cut off, as its source failed while it was read; try again, or ask for less.");
        }
        if (answer.getStatus() == HttpServletResponse.SC_UNAUTHORIZED) {
            throw new Refusal(
                    ProblemKind.SIGN_IN_NEEDED,
                    "This tool needs a credential; send one as 'Authorization: Bearer ...' with each message.");
        }
        byte[] body = answer.body();
        if (!asked.share().hold((long) HELD_TIMES * body.length)) {
            throw new Refusal(
                    ProblemKind.BUSY,
                    "Too many large answers are being sent at this moment; ask again in a moment, or for less.");
        }
        boolean bad = answer.getStatus() >= FIRST_ERROR;
        String text = new String(body, StandardCharsets.UTF_8);
        ObjectNode result = Message.JSON.createObjectNode();
        var content = result.putArray("content");
        if (!text.isEmpty()) {
            content.addObject().put("type", "text").put("text", text);
        }
        String beside = beside(answer, text.isEmpty());
        if (!beside.isEmpty()) {
            content.addObject().put("type", "text").put("text", beside);
        }
        if (!bad && tool.output() != null) {
            result.putRawValue("structuredContent", new RawValue(text));
        }
        return result.put("isError", bad);
    }

    /** What the header tells, in a line. */
    private static String beside(ToolHttpResponse answer, boolean alone) {
        List<String> said = new ArrayList<>();
        if (alone) {
            said.add("Answered " + answer.getStatus() + ", with nothing to read");
        }
        for (String name : TOLD) {
            String value = answer.getHeader(name);
            if (value != null) {
                said.add(name + ": " + value);
            }
        }
        return String.join("; ", said);
    }

    private static ObjectNode failed(String why) {
        ObjectNode result = Message.JSON.createObjectNode();
        result.putArray("content").addObject().put("type", "text").put("text", why);
        return result.put("isError", true);
    }

    /** As the trial of a live operation, on behalf of who asks. What rows hold is not told: fields may be masked for them. */
    private ObjectNode rehearse(Tool tool, ToolRequest request, Asked asked) {
        Caller caller = asked.caller();
        try (Quotas.Use counted = count(tool, asked.module(), caller)) {
            Trial trial = trials.run(new Trials.Request(
                    asked.module().release().text(),
                    request.method(),
                    request.path().isEmpty() ? "/" : request.path(),
                    request.inputs(),
                    request.body(),
                    List.of(),
                    caller,
                    false));
            records.audit()
                    .add(new AuditEntry(
                            clock.instant(),
                            caller.name() == null ? "somebody unknown" : caller.name(),
                            caller.address(),
                            "rehearse",
                            trial.subject(),
                            trial.outcome()));
            return result(trial);
        } catch (Refusal e) {
            return failed(new String(e.problem().json(RequestId.of(asked.response())), StandardCharsets.UTF_8));
        } catch (Source.Unreachable e) {
            return failed("The source does not answer at this moment; nothing was done. Try again later.");
        }
    }

    private Quotas.Use count(Tool tool, LiveModule module, Caller caller) throws Refusal {
        ModulePlan plan = module.plan();
        if (plan == null) {
            return Quotas.Use.NONE;
        }
        List<Quotas.Rule> rules = plan.operations()
                .filter(operation -> operation.method() == tool.operation().method()
                        && operation.path().text().equals(tool.operation().path()))
                .findFirst()
                .map(operation -> quotas.rules(caller, plan, operation))
                .orElse(List.of());
        return rules.isEmpty() ? Quotas.Use.NONE : quotas.begin(rules, caller, (name, value) -> {});
    }

    private static ObjectNode result(Trial trial) {
        Trial.Answer answer = trial.answer();
        if (answer == null) {
            return failed("The operation cannot be run at this moment; nothing was done.");
        }
        ObjectNode told = Message.JSON.createObjectNode();
        Trial.Rehearsal rehearsal = trial.rehearsal();
        if (rehearsal != null) {
            RehearsalChanges changes = rehearsal.changes();
            told.put("undone", true);
            told.put("written", changes.written());
            told.put("updated", changes.updated());
            told.put("deleted", changes.deleted());
            var tables = told.putArray("tables");
            changes.tables()
                    .forEach(table -> tables.addObject()
                            .put("table", table.table())
                            .put("inserted", table.inserted())
                            .put("changed", table.changed())
                            .put("deleted", table.deleted()));
        }
        ObjectNode would = told.putObject("answer").put("status", answer.status());
        boolean json = answer.headers().stream()
                .anyMatch(field ->
                        field.name().equals("Content-Type") && field.value().contains("json"));
        if (json && !answer.cut() && !answer.body().isEmpty()) {
            would.putRawValue("body", new RawValue(answer.body()));
        }
        ObjectNode result = Message.JSON.createObjectNode();
        result.putArray("content").addObject().put("type", "text").put("text", Message.JSON.writeValueAsString(told));
        return result.put("isError", answer.status() >= FIRST_ERROR);
    }
}
