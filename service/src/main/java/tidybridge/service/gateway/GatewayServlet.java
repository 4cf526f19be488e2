package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.Set;
import org.apache.coyote.CloseNowException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Caller;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Method;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.route.PathText;
import tidybridge.core.route.Router;
import tidybridge.engine.SourceFailure;
import tidybridge.service.Problems;
import tidybridge.service.access.Challenge;
import tidybridge.service.access.Gatekeeper;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.live.Live;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.RetiredModule;
import tidybridge.service.live.Target;
import tidybridge.service.quota.Quotas;
import tidybridge.service.run.Notice;
import tidybridge.service.run.Refusal;
import tidybridge.service.run.RunnableOperation;
import tidybridge.service.traffic.CallObserver;
import tidybridge.service.traffic.CallRecord;
import tidybridge.service.traffic.RequestId;

/**
 * Answers every call below {@code /api/}: finds what the path leads to, has the gatekeeper decide, runs it, and tells the observer.
 * Whatever goes wrong, the answer is a problem document.
 */
public final class GatewayServlet extends HttpServlet {

    /** The longest address that is read, in chars. */
    static final int LONGEST_ADDRESS = 8 * 1024;

    private static final String ACCEPT_PATCH = "Accept-Patch";
    private static final String PATCHES = RequestBodies.MERGE_PATCH + ", application/json";
    private static final int PREFIX = "/api".length();

    private final transient LiveModules modules;
    private final transient Gatekeeper gatekeeper;
    private final transient Quotas quotas;
    private final transient Repeats repeats;
    private final transient CallObserver observer;
    private final transient BytesInFlight bytes;
    private final transient Clock clock;

    public GatewayServlet(
            LiveModules modules,
            Gatekeeper gatekeeper,
            Quotas quotas,
            Repeats repeats,
            CallObserver observer,
            BytesInFlight bytes,
            Clock clock) {
        this.modules = modules;
        this.gatekeeper = gatekeeper;
        this.quotas = quotas;
        this.repeats = repeats;
        this.observer = observer;
        this.bytes = bytes;
        this.clock = clock;
    }

    @Override
    protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
        call(request, response);
    }

    /** Answers a call as if it had come by itself, whoever puts it in the place of what came. */
    public void call(HttpServletRequest request, HttpServletResponse response) throws IOException {
        CallRecord record = new CallRecord();
        boolean head = request.getMethod().equals("HEAD");
        try (BytesInFlight.Share share = bytes.share()) {
            answer(request, response, head, share, record);
        } catch (Refusal e) {
            if (e.problem().kind() == ProblemKind.BODY_UNKNOWN
                    && request.getMethod().equals("PATCH")) {
                response.setHeader(ACCEPT_PATCH, PATCHES);
            }
            refuse(request, response, e, head, record);
        } catch (BadInput e) {
            refuse(request, response, new Refusal(e.problem()), head, record);
        } finally {
            record.status(response.getStatus());
            observer.ended(record);
        }
    }

    private static void refuse(
            HttpServletRequest request, HttpServletResponse response, Refusal refusal, boolean head, CallRecord record)
            throws IOException {
        record.problem(refusal.problem());
        record.refused(refusal.reason(), RequestId.of(response), request.getRemoteAddr());
        byte[] body = Problems.head(response, refusal);
        if (response.getStatus() == HttpServletResponse.SC_UNAUTHORIZED) {
            Challenge.add(request, response);
        }
        if (!head) {
            response.getOutputStream().write(body);
        }
    }

    private void answer(
            HttpServletRequest request,
            HttpServletResponse response,
            boolean head,
            BytesInFlight.Share share,
            CallRecord record)
            throws Refusal, BadInput, IOException {
        checkLength(request);
        String path = PathText.normalize(request.getRequestURI());
        int[] captures = new int[2 * Router.MOST_CAPTURES];
        Live live = modules.now();
        Target target = live.match(path, PREFIX, captures);
        if (live.isPartial() && !(target instanceof Target.Operations)) {
            live = modules.completed(path.substring(PREFIX));
            target = live.match(path, PREFIX, captures);
        }
        LiveModule module =
                target == null ? new UnknownAddress(live, path.substring(PREFIX)).module() : target.module();
        if (module != null) {
            record.module(module.identity());
        }
        if (CrossOriginFields.tell(request, response, module)) {
            return;
        }
        Arrival arrival = new Arrival(request, gatekeeper, record);
        if (target == null) {
            throw refusal(new UnknownAddress(live, path.substring(PREFIX)), module, arrival);
        }
        switch (target) {
            case Target.Reference reference -> reference(reference, arrival, request, response);
            case Target.Changes changes -> changes(changes, arrival, request, response);
            case Target.Operations operations -> {
                RunnableOperation operation = operation(operations, arrival, request, response, record);
                if (operation != null) {
                    tellEnd(operations.module(), operation.plan(), path, captures, response);
                    try (Quotas.Use counted = count(arrival, operations.module(), operation.plan(), response)) {
                        byte[] body = RequestBodies.read(
                                request, operation.plan().binder().bodyKind(), share);
                        CallInputs inputs = new CallInputs(request, response, path, captures, body, arrival);
                        run(operation, new HttpExchange(request, response, share), inputs, head, record);
                    }
                }
            }
        }
    }

    private static void reference(
            Target.Reference reference, Arrival arrival, HttpServletRequest request, HttpServletResponse response)
            throws Refusal, IOException {
        arrival.read(reference.module());
        if (isRead(request, response)) {
            ReferenceCall.run(reference, request, response);
        }
    }

    private void changes(
            Target.Changes changes, Arrival arrival, HttpServletRequest request, HttpServletResponse response)
            throws Refusal, IOException {
        arrival.seeOneOf(changes.all());
        if (isRead(request, response)) {
            ChangesCall.run(changes, modules.news(), request, response);
        }
    }

    private void tellEnd(
            LiveModule module, OperationPlan operation, String path, int[] captures, HttpServletResponse response)
            throws Refusal {
        ModulePlan plan = module.plan();
        Deprecation ofModule = plan == null ? null : plan.deprecated();
        if (ofModule != null || operation.header().deprecated() != null) {
            new EndOfLife(module, operation, ofModule).tell(path, captures, response, clock);
        }
    }

    /** Counts a call that may be made; it ends when what is returned is closed. */
    private Quotas.Use count(Arrival arrival, LiveModule module, OperationPlan operation, HttpServletResponse response)
            throws Refusal {
        ModulePlan plan = module.plan();
        Caller caller = plan != null && (plan.admission().quota() != null || operation.quota() != null)
                ? arrival.caller()
                : arrival.shown();
        if (plan == null || caller == null) {
            return Quotas.Use.NONE;
        }
        List<Quotas.Rule> rules = quotas.rules(caller, plan, operation);
        return rules.isEmpty() ? Quotas.Use.NONE : quotas.begin(rules, caller, response::setHeader);
    }

    private static void checkLength(HttpServletRequest request) throws Refusal {
        String query = request.getQueryString();
        if (request.getRequestURI().length() + (query == null ? 0 : query.length()) > LONGEST_ADDRESS) {
            throw new Refusal(
                    ProblemKind.URL_TOO_LONG,
                    "The address is longer than " + LONGEST_ADDRESS + " characters; send less in the query.");
        }
    }

    /** Whether a route is there is told to those only who may call something of its module. */
    private static Refusal refusal(UnknownAddress address, @Nullable LiveModule module, Arrival arrival)
            throws Refusal {
        if (module == null) {
            RetiredModule gone = address.retired();
            if (gone != null) {
                arrival.see(gone.module());
                return address.gone(gone);
            }
            return address.moduleUnknown(arrival::sees);
        }
        arrival.see(module);
        return address.routeUnknown(module, arrival);
    }

    /** True for GET and HEAD; answers OPTIONS itself, and refuses the rest. */
    private static boolean isRead(HttpServletRequest request, HttpServletResponse response) throws Refusal {
        String method = request.getMethod();
        return method.equals("GET")
                || method.equals("HEAD")
                || tellMethods(request, response, String.join(", ", Target.READING));
    }

    /** The operation for the request's method; null for OPTIONS, which is answered here. */
    private static @Nullable RunnableOperation operation(
            Target.Operations operations,
            Arrival arrival,
            HttpServletRequest request,
            HttpServletResponse response,
            CallRecord record)
            throws Refusal {
        Method method = switch (request.getMethod()) {
            case "GET", "HEAD" -> Method.GET;
            case "POST" -> Method.POST;
            case "PUT" -> Method.PUT;
            case "PATCH" -> Method.PATCH;
            case "DELETE" -> Method.DELETE;
            default -> null;
        };
        RunnableOperation operation =
                method == null ? null : operations.byMethod().get(method);
        if (operation != null) {
            record.operation(operation.plan());
            arrival.call(operations.module(), operation.plan().needs());
            return operation;
        }
        otherMethod(operations, arrival, request, response);
        return null;
    }

    /** Which methods a route answers is told to those only who may call one of them. */
    private static void otherMethod(
            Target.Operations operations, Arrival arrival, HttpServletRequest request, HttpServletResponse response)
            throws Refusal {
        arrival.see(operations.module());
        if (operations.byMethod().values().stream()
                .noneMatch(other -> arrival.meets(other.plan().needs()))) {
            throw new Refusal(ProblemKind.ROUTE_UNKNOWN, UnknownAddress.noRoute(operations.module()));
        }
        if (operations.byMethod().containsKey(Method.PATCH)) {
            response.setHeader(ACCEPT_PATCH, PATCHES);
        }
        tellMethods(request, response, operations.allow());
    }

    /** Answers OPTIONS; every other method that comes here is refused. Always false. */
    private static boolean tellMethods(HttpServletRequest request, HttpServletResponse response, String allow)
            throws Refusal {
        response.setHeader("Allow", allow);
        if (!request.getMethod().equals("OPTIONS")) {
            throw new Refusal(ProblemKind.METHOD_UNKNOWN, "This route answers " + allow + ".");
        }
        response.setStatus(HttpServletResponse.SC_NO_CONTENT);
        return false;
    }

    private void run(
            RunnableOperation operation, HttpExchange exchange, CallInputs inputs, boolean head, CallRecord record)
            throws Refusal, BadInput, IOException {
        OperationCall call = new OperationCall(operation, exchange, head);
        try {
            call.run(inputs, repeats, record);
            modules.note(operation.plan(), call.notices());
        } catch (SourceFailure e) {
            record.failure(e);
            FailureLog.note(operation.plan().label(), inputs.requestId(), e);
            boolean denied = e.kind() == ConditionKind.DENIED;
            modules.note(operation.plan(), denied ? Set.of(Notice.FORBIDDEN) : call.notices());
            if (call.isStreaming()) {
                throw new CloseNowException("cut off after the answer had begun", e);
            }
            throw new Refusal(operation.plan().conditions().problem(e.condition()));
        }
    }
}
