package tidybridge.service.assistant;

import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.assistant.Tool;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.OwnAddress;
import tidybridge.service.Problems;
import tidybridge.service.access.Challenge;
import tidybridge.service.access.Gatekeeper;
import tidybridge.service.access.OwnPages;
import tidybridge.service.capacity.BodyIntake;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.gateway.Arrival;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.run.Refusal;
import tidybridge.service.traffic.CallRecord;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Answers assistants, a module's version at an address of its own: the Model Context Protocol over streamable HTTP, without sessions and
 * streams, since every message is answered at once. Who asks shows a key or a token with each message; cookies count for nothing.
 */
public final class AssistantServlet extends HttpServlet {

    /** Below it stands the identity of a module. */
    public static final String PATH = "/mcp/";

    /** The revisions of the protocol that are spoken, the newest first. */
    static final List<String> REVISIONS = List.of("2025-11-25", "2025-06-18", "2025-03-26");

    /** The largest message that is read, in bytes; read as a tree it takes many times that. */
    static final int LARGEST_MESSAGE = 256 * 1024;

    private static final int TREE_TIMES = 16;

    /** How many tools are told at once. */
    static final int TOOLS_A_PAGE = 100;

    private static final Pattern ADDRESS = Pattern.compile(PATH + "(([a-z][a-z0-9-]{0,62})/v[1-9][0-9]{0,8})");

    private final transient LiveModules modules;
    private final transient Gatekeeper gatekeeper;
    private final transient BytesInFlight bytes;
    private final transient ToolCalls calls;
    private final transient Toolboxes toolboxes = new Toolboxes();

    public AssistantServlet(LiveModules modules, Gatekeeper gatekeeper, BytesInFlight bytes, ToolCalls calls) {
        this.modules = modules;
        this.gatekeeper = gatekeeper;
        this.bytes = bytes;
        this.calls = calls;
    }

    @Override
    protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
        response.setHeader("Cache-Control", "no-store");
        try (BytesInFlight.Share share = bytes.share()) {
            answer(request, response, share);
        } catch (Refusal e) {
            byte[] body = Problems.head(response, e);
            if (response.getStatus() == HttpServletResponse.SC_UNAUTHORIZED) {
                Challenge.add(request, response);
            }
            response.getOutputStream().write(body);
        }
    }

    private void answer(HttpServletRequest request, HttpServletResponse response, BytesInFlight.Share share)
            throws Refusal, IOException {
        if (!request.getMethod().equals("POST")) {
            response.setHeader("Allow", "POST");
            throw new Refusal(
                    ProblemKind.METHOD_UNKNOWN,
                    "Assistants send each message here by POST; the service sends none by itself.");
        }
        String origin = request.getHeader("Origin");
        if (origin != null && !OwnPages.isOwnOrigin(origin, request)) {
            throw new Refusal(ProblemKind.NOT_ALLOWED, "Pages of other origins may not send messages of assistants.");
        }
        Matcher address = ADDRESS.matcher(request.getRequestURI());
        if (!address.matches()) {
            throw unknown();
        }
        HttpServletRequest sender = ToolHttpRequest.sender(request, "/api/" + address.group(1));
        Arrival arrival = new Arrival(sender, gatekeeper, new CallRecord());
        LiveModule module = modules.completed("/" + address.group(2)).module(address.group(1));
        if (module == null) {
            throw unknown();
        }
        arrival.see(module);
        checkMessage(request);
        byte[] body = BodyIntake.read(request, LARGEST_MESSAGE, share);
        if (!share.hold((long) TREE_TIMES * body.length, BytesInFlight.PATIENCE)) {
            throw new Refusal(ProblemKind.BUSY, "Too many messages are being read at this moment; send it again soon.");
        }
        converse(body, new ToolCalls.Asked(module, arrival.caller(), request, response, share));
    }

    private static Refusal unknown() {
        return new Refusal(
                ProblemKind.MODULE_UNKNOWN,
                "There is no module of that name and version; its tools are at an address such as /mcp/moorings/v1.");
    }

    private static void checkMessage(HttpServletRequest request) throws Refusal {
        String type = request.getContentType();
        if (type == null
                || !type.toLowerCase(Locale.ROOT).split(";", -1)[0].strip().equals("application/json")) {
            throw new Refusal(
                    ProblemKind.BODY_UNKNOWN, "Messages are application/json in UTF-8; say so in Content-Type.");
        }
        String revision = request.getHeader("MCP-Protocol-Version");
        if (revision != null && !REVISIONS.contains(revision)) {
            throw new Refusal(
                    ProblemKind.BAD_INPUT,
                    "The revision in MCP-Protocol-Version is not spoken here; these are: "
                            + String.join(", ", REVISIONS) + ".");
        }
    }

    private void converse(byte[] body, ToolCalls.Asked asked) throws Refusal, IOException {
        HttpServletResponse response = asked.response();
        JsonNode id = null;
        byte[] answer;
        try {
            Message message = Message.read(body);
            id = message.id();
            if (id == null || message.method().isEmpty()) {
                response.setStatus(HttpServletResponse.SC_ACCEPTED);
                return;
            }
            answer = message.answer(result(message, asked));
        } catch (Message.Wrong e) {
            response.setStatus(id == null ? HttpServletResponse.SC_BAD_REQUEST : HttpServletResponse.SC_OK);
            answer = Message.answer(id, e);
        }
        response.setContentType("application/json");
        response.setContentLength(answer.length);
        response.getOutputStream().write(answer);
    }

    private ObjectNode result(Message message, ToolCalls.Asked asked) throws Message.Wrong, Refusal, IOException {
        return switch (message.method()) {
            case "initialize" -> greeting(message, asked);
            case "ping" -> Message.JSON.createObjectNode();
            case "tools/list" -> tools(message, asked);
            case "tools/call" -> call(message, asked);
            default ->
                throw new Message.Wrong(
                        Message.METHOD_UNKNOWN, "This service answers initialize, ping, tools/list and tools/call.");
        };
    }

    private static ObjectNode greeting(Message message, ToolCalls.Asked asked) {
        String wanted = message.parameters().path("protocolVersion").asString("");
        LiveModule module = asked.module();
        ObjectNode result = Message.JSON
                .createObjectNode()
                .put("protocolVersion", REVISIONS.contains(wanted) ? wanted : REVISIONS.getFirst());
        result.putObject("capabilities").putObject("tools").put("listChanged", false);
        result.putObject("serverInfo")
                .put("name", module.identity())
                .put("title", module.said().title())
                .put("version", module.release().version().toString());
        return result.put("instructions", instructions(module, asked.request()));
    }

    private static String instructions(LiveModule module, HttpServletRequest request) {
        String about = module.said().about();
        return module.said().title() + "."
                + (about == null ? "" : " " + about.strip())
                + " Rows come in pages: as long as an answer has page.after, give it as 'after' to the same tool for the next one."
                + " A refusal is a problem document; its detail says what to do."
                + " For people: " + OwnAddress.of(request) + "/reference/" + module.identity();
    }

    private ObjectNode tools(Message message, ToolCalls.Asked asked) throws Message.Wrong, Refusal {
        List<Tool> usable = Toolboxes.usable(toolboxes.of(asked.module()), asked.caller());
        int from = from(message.parameters().get("cursor"), usable.size());
        int to = Math.min(usable.size(), from + TOOLS_A_PAGE);
        ObjectNode result = Message.JSON.createObjectNode();
        var tools = result.putArray("tools");
        usable.subList(from, to).forEach(tool -> tools.add(described(tool)));
        if (to < usable.size()) {
            result.put("nextCursor", String.valueOf(to));
        }
        return result;
    }

    private static int from(@Nullable JsonNode cursor, int most) throws Message.Wrong {
        if (cursor == null || cursor.isNull()) {
            return 0;
        }
        String text = cursor.asString("");
        if (!text.matches("[0-9]{1,6}") || Integer.parseInt(text) > most) {
            throw new Message.Wrong(Message.PARAMETERS_UNFIT, "The 'cursor' is one that an earlier list answered.");
        }
        return Integer.parseInt(text);
    }

    private static ObjectNode described(Tool tool) {
        ObjectNode described = Message.JSON
                .createObjectNode()
                .put("name", tool.name())
                .put("title", tool.title())
                .put("description", tool.description());
        described.set("inputSchema", Message.JSON.valueToTree(tool.input()));
        if (tool.output() != null) {
            described.set("outputSchema", Message.JSON.valueToTree(tool.output()));
        }
        described
                .putObject("annotations")
                .put("readOnlyHint", tool.isRead())
                .put("destructiveHint", tool.isDestructive())
                .put("idempotentHint", tool.isIdempotent())
                .put("openWorldHint", false);
        return described;
    }

    private ObjectNode call(Message message, ToolCalls.Asked asked) throws Message.Wrong, Refusal, IOException {
        String name = message.parameters().path("name").asString("");
        Tool tool = toolboxes
                .of(asked.module())
                .find(name)
                .filter(found -> !found.rehearsal() || Toolboxes.isUsable(found, asked.caller()))
                .orElseThrow(() -> new Message.Wrong(
                        Message.PARAMETERS_UNFIT, "There is no tool of that name; tools/list tells which there are."));
        JsonNode arguments = message.parameters().get("arguments");
        if (arguments != null && !arguments.isNull() && !arguments.isObject()) {
            throw new Message.Wrong(Message.PARAMETERS_UNFIT, "The 'arguments' of a tool are an object.");
        }
        return calls.run(
                tool, arguments instanceof ObjectNode object ? object : Message.JSON.createObjectNode(), asked);
    }
}
