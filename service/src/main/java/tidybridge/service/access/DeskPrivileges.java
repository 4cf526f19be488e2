package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.HandlerMapping;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.Problems;
import tidybridge.service.run.Refusal;

/** Lets a call of the management API reach its operation, or refuses it and names what is missing. */
public final class DeskPrivileges implements HandlerInterceptor {

    private final DeskRefusals refusals;

    public DeskPrivileges(DeskRefusals refusals) {
        this.refusals = refusals;
    }

    @Override
    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler)
            throws IOException {
        if (!(handler instanceof HandlerMethod method)) {
            return true;
        }
        Refusal refusal = refusal(method, Visitor.of(request));
        if (refusal == null) {
            return true;
        }
        Object pattern = request.getAttribute(HandlerMapping.BEST_MATCHING_PATTERN_ATTRIBUTE);
        refusals.note(request, response, Visitor.of(request), request.getMethod() + " " + pattern, refusal);
        Problems.write(response, refusal);
        return false;
    }

    private static @Nullable Refusal refusal(HandlerMethod method, Visitor visitor) {
        DeskOpen open = method.getMethodAnnotation(DeskOpen.class);
        if (open != null
                && (open.value() == DeskOpen.To.EVERYBODY || visitor.caller().isKnown())) {
            return null;
        }
        if (!visitor.caller().isKnown()) {
            return unknown();
        }
        DeskNeeds needs = method.getMethodAnnotation(DeskNeeds.class);
        if (needs == null) {
            throw new IllegalStateException(method + " says nothing about who may call it");
        }
        return visitor.holds(needs.value()) ? null : missing(needs.value(), visitor);
    }

    /** For somebody unknown. */
    static Refusal unknown() {
        return new Refusal(
                ProblemKind.SIGN_IN_NEEDED,
                "The management API needs a token as 'Authorization: Bearer ...'; './tidy sign-in' gets one, and the administrator's lies in the service's home folder, in "
                        + Administrator.FILE + ".");
    }

    /** For somebody known who does not hold a privilege. */
    public static Refusal missing(ServicePrivilege privilege, Visitor visitor) {
        return missing(privilege, visitor, "This");
    }

    /**
     * The same for a part of a call.
     *
     * @param what begins the sentence
     */
    public static Refusal missing(ServicePrivilege privilege, Visitor visitor, String what) {
        return new Refusal(
                Problem.of(
                        ProblemKind.PRIVILEGE_NEEDED,
                        what + " asks for the privilege '" + privilege.privilege() + "', which no role of '"
                                + visitor.who() + "' holds; ask an administrator for one."),
                Map.of("WWW-Authenticate", Challenge.scope(List.of(privilege.privilege()))));
    }
}
