package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Caller;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.definition.Method;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.route.PathText;
import tidybridge.core.route.Router;
import tidybridge.core.text.Nearest;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.TransactionSettings;
import tidybridge.service.Problems;
import tidybridge.service.access.Administrator;
import tidybridge.service.access.Sessions;
import tidybridge.service.live.Live;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.ReferenceFiles;
import tidybridge.service.live.Running;
import tidybridge.service.live.Target;

/** Answers every call below {@code /api/}. Whatever goes wrong, the answer is a problem document. */
public final class GatewayServlet extends HttpServlet {

    /** The longest address that is read, in chars. */
    static final int LONGEST_ADDRESS = 8 * 1024;

    private static final Logger LOG = LoggerFactory.getLogger(GatewayServlet.class);
    private static final int PREFIX = "/api".length();

    private final transient LiveModules modules;
    private final transient Administrator administrator;
    private final transient Sessions sessions;
    private final transient Repeats repeats;

    public GatewayServlet(LiveModules modules, Administrator administrator, Sessions sessions, Repeats repeats) {
        this.repeats = repeats;
        this.modules = modules;
        this.administrator = administrator;
        this.sessions = sessions;
    }

    @Override
    protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
        boolean head = request.getMethod().equals("HEAD");
        try {
            answer(request, response, head);
        } catch (Refusal e) {
            refuse(response, e.problem(), head);
        } catch (BadInput e) {
            refuse(response, Problem.badInput(e.errors()), head);
        }
    }

    private static void refuse(HttpServletResponse response, Problem problem, boolean head) throws IOException {
        byte[] body = Problems.head(response, problem);
        if (!head) {
            response.getOutputStream().write(body);
        }
    }

    private void answer(HttpServletRequest request, HttpServletResponse response, boolean head)
            throws Refusal, BadInput, IOException {
        String uri = request.getRequestURI();
        String query = request.getQueryString();
        if (uri.length() + (query == null ? 0 : query.length()) > LONGEST_ADDRESS) {
            throw new Refusal(
                    ProblemKind.URL_TOO_LONG,
                    "The address is longer than " + LONGEST_ADDRESS + " characters; send less in the query.");
        }
        String path = PathText.normalize(uri);
        int[] captures = new int[2 * Router.MOST_CAPTURES];
        Live live = modules.now();
        Target target = live.match(path, PREFIX, captures);
        switch (target) {
            case null -> throw unknown(live, path);
            case Target.Reference reference -> {
                if (methodFits(request, response, String.join(", ", Target.READING))) {
                    admit(request, reference.module());
                    sendReference(reference, request, response, head);
                }
            }
            case Target.Operations operations -> {
                Running running = running(operations, request, response);
                if (running != null) {
                    admit(request, operations.module());
                    byte[] body =
                            RequestBodies.read(request, running.plan().binder().bodyKind());
                    run(
                            running,
                            request,
                            response,
                            new CallInputs(request, path, captures, body, () -> caller(request)),
                            head);
                }
            }
        }
    }

    /** True for GET and HEAD; answers OPTIONS itself, and refuses the rest. */
    private static boolean methodFits(HttpServletRequest request, HttpServletResponse response, String allow)
            throws Refusal {
        String method = request.getMethod();
        if (method.equals("GET") || method.equals("HEAD")) {
            return true;
        }
        response.setHeader("Allow", allow);
        if (method.equals("OPTIONS")) {
            response.setStatus(HttpServletResponse.SC_NO_CONTENT);
            return false;
        }
        throw new Refusal(ProblemKind.METHOD_UNKNOWN, "This route answers " + allow + ".");
    }

    /** The operation for the request's method; null for OPTIONS, which is answered here. */
    private static @Nullable Running running(
            Target.Operations operations, HttpServletRequest request, HttpServletResponse response) throws Refusal {
        Method method = switch (request.getMethod()) {
            case "GET", "HEAD" -> Method.GET;
            case "POST" -> Method.POST;
            case "PUT" -> Method.PUT;
            case "PATCH" -> Method.PATCH;
            case "DELETE" -> Method.DELETE;
            default -> null;
        };
        Running running = method == null ? null : operations.byMethod().get(method);
        if (running != null) {
            return running;
        }
        response.setHeader("Allow", operations.allow());
        if (operations.byMethod().containsKey(Method.PATCH)) {
            response.setHeader("Accept-Patch", "application/merge-patch+json, application/json");
        }
        if (request.getMethod().equals("OPTIONS")) {
            response.setStatus(HttpServletResponse.SC_NO_CONTENT);
            return null;
        }
        throw new Refusal(ProblemKind.METHOD_UNKNOWN, "This route answers " + operations.allow() + ".");
    }

    /** Until roles are given out, the administrator holds every privilege and everybody else none. */
    private Caller caller(HttpServletRequest request) {
        String address = request.getRemoteAddr();
        return isAdministrator(request)
                ? new Caller("administrator", null, List.of(), address, privilege -> true)
                : Caller.unknown(address);
    }

    private boolean isAdministrator(HttpServletRequest request) {
        return administrator.admits(request.getHeader("Authorization")) || sessions.admits(request);
    }

    private void admit(HttpServletRequest request, LiveModule module) throws Refusal {
        ModulePlan plan = module.plan();
        if (plan != null && plan.open()) {
            return;
        }
        if (!isAdministrator(request)) {
            throw new Refusal(
                    ProblemKind.SIGN_IN_NEEDED,
                    "The module " + module.identity() + " is closed; ask its owner for access.");
        }
    }

    private void run(
            Running running, HttpServletRequest request, HttpServletResponse response, CallInputs inputs, boolean head)
            throws Refusal, BadInput, IOException {
        String type = offered(running.plan());
        if (type != null && !AcceptField.takes(request.getHeader("Accept"), type)) {
            throw new Refusal(ProblemKind.FORMAT_UNKNOWN, "This call answers in " + type + "; accept that, or '*/*'.");
        }
        response.setHeader("Cache-Control", "no-cache");
        HttpExchange exchange = new HttpExchange(request, response);
        ChangePlan change = running.plan().change();
        Answering answering = new Answering(exchange, running, head);
        try {
            if (change == null) {
                answering.run(inputs);
            } else {
                new Changing(running, change, TransactionSettings.Ending.COMMIT).run(inputs, exchange, repeats);
            }
        } catch (SourceFailure e) {
            failed(running.plan().label(), e);
            if (e.kind() == ConditionKind.DENIED) {
                modules.forbidden(running.plan());
            }
            if (answering.isStreaming()) {
                throw new IOException("cut off after the answer had begun", e);
            }
            throw new Refusal(running.plan().conditions().problem(e.condition()));
        }
    }

    /** The media type of an operation's answers; null when each has its own, or none. */
    private static @Nullable String offered(OperationPlan plan) {
        return switch (plan.answer()) {
            case ROWS, ROW, VALUE -> "application/json";
            case NOTHING -> null;
            case FILE ->
                plan.file() == null ? null : withoutParameters(plan.file().mediaType());
        };
    }

    /** {@code text/plain; charset=utf-8} is what a caller of text/plain asks for. */
    private static @Nullable String withoutParameters(@Nullable String mediaType) {
        return mediaType == null ? null : mediaType.split(";", 2)[0].strip();
    }

    private static void failed(String label, SourceFailure e) {
        Condition condition = e.condition();
        switch (condition.kind()) {
            case UNREACHABLE, TIMED_OUT, ROWS_BUSY, OUTCOME_UNKNOWN ->
                LOG.warn("{}: {} (SQLSTATE {}, {})", label, e.getMessage(), condition.sqlState(), condition.number());
            case DUPLICATE,
                    STILL_REFERRED_TO,
                    REFERENCE_MISSING,
                    CHECK_FAILED,
                    VALUE_MISSING,
                    TOO_LONG,
                    OUT_OF_RANGE,
                    WRONG_FORM,
                    SIGNALLED ->
                LOG.info(
                        "{}: refused by {} (SQLSTATE {}, {})",
                        label,
                        condition.kind(),
                        condition.sqlState(),
                        condition.number());
            case DENIED, OTHER ->
                LOG.error("{}: {} (SQLSTATE {}, {})", label, e.getMessage(), condition.sqlState(), condition.number());
        }
    }

    private static void sendReference(
            Target.Reference target, HttpServletRequest request, HttpServletResponse response, boolean head)
            throws IOException {
        ReferenceFiles files = target.module().reference();
        if (files == null) {
            throw new IllegalStateException("only served modules have routes");
        }
        ReferenceFiles.File file = target.yaml() ? files.yaml() : files.json();
        response.setHeader("ETag", file.tag());
        response.setHeader("Cache-Control", "no-cache");
        String known = request.getHeader("If-None-Match");
        if (known != null && (known.contains(file.tag()) || known.strip().equals("*"))) {
            response.setStatus(HttpServletResponse.SC_NOT_MODIFIED);
            return;
        }
        response.setContentType(file.mediaType());
        response.setContentLength(file.bytes().length);
        if (!head) {
            response.getOutputStream().write(file.bytes());
        }
    }

    /** Says whether it is the module, its version or the route that is not there. */
    private static Refusal unknown(Live live, String path) {
        String[] parts = path.substring(PREFIX).split("/", 4);
        String name = parts.length > 1 ? parts[1] : "";
        String version = parts.length > 2 ? parts[2] : "";
        LiveModule module = live.module(name + "/" + version);
        if (module != null) {
            return module.plan() == null ? notServed(module) : noRoute(module, module.plan(), parts);
        }
        List<String> identities =
                live.modules().stream().map(LiveModule::identity).toList();
        List<String> versions = identities.stream()
                .filter(identity -> identity.startsWith(name + "/"))
                .toList();
        if (!versions.isEmpty()) {
            return new Refusal(
                    ProblemKind.MODULE_UNKNOWN,
                    "The module is published as " + String.join(", ", versions)
                            + "; the version belongs into the address.");
        }
        return new Refusal(
                ProblemKind.MODULE_UNKNOWN,
                "No module of that name is published here." + Nearest.hint(shown(name + "/" + version), identities));
    }

    private static Refusal notServed(LiveModule module) {
        return module.findings().isEmpty()
                ? new Refusal(ProblemKind.SOURCE_UNAVAILABLE, ProblemKind.SOURCE_UNAVAILABLE.meaning())
                : new Refusal(ProblemKind.FAILED, ProblemKind.FAILED.meaning());
    }

    private static Refusal noRoute(LiveModule module, ModulePlan plan, String[] parts) {
        String route = "/" + (parts.length > 3 ? parts[3] : "");
        List<String> routes =
                plan.routes().stream().map(known -> known.path().text()).toList();
        return new Refusal(
                ProblemKind.ROUTE_UNKNOWN,
                "The module " + module.identity() + " has no route that matches." + Nearest.hint(shown(route), routes)
                        + " Its reference is " + plan.basePath() + "/openapi.json.");
    }

    /** A text of the caller's own, for comparing with known names; a long one is none of them. */
    private static String shown(String text) {
        return text.length() <= 60 ? text : "";
    }
}
