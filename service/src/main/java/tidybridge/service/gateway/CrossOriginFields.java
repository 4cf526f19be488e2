package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Collection;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.CrossOrigin;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.HeaderColumn;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.service.live.LiveModule;

/**
 * Tells browsers which pages of other origins may call a module (the Fetch standard's CORS protocol). What is told depends on the module and
 * the origin only, so that nothing of its routes is told to strangers.
 */
final class CrossOriginFields {

    private static final String ORIGIN = "Origin";
    private static final String METHODS = "GET, HEAD, POST, PUT, PATCH, DELETE";
    private static final Set<String> SENT = Set.of(
            "Accept",
            "Authorization",
            "Content-Type",
            "Idempotency-Key",
            "If-Match",
            "If-Modified-Since",
            "If-None-Match",
            "If-Unmodified-Since",
            "traceparent");
    private static final Set<String> READ = Set.of(
            "Allow",
            "Content-Disposition",
            "Deprecation",
            "ETag",
            "Last-Modified",
            "Link",
            "Location",
            "RateLimit",
            "RateLimit-Policy",
            "Retry-After",
            "Sunset",
            "WWW-Authenticate",
            "X-Request-Id");

    private CrossOriginFields() {}

    /**
     * Adds what a browser must be told, to whatever is answered.
     *
     * @return true when the request only asks whether it may be made, and is answered with that
     */
    static boolean tell(HttpServletRequest request, HttpServletResponse response, @Nullable LiveModule module) {
        ModulePlan plan = module == null ? null : module.plan();
        CrossOrigin rules = plan == null ? null : plan.admission().crossOrigin();
        if (module == null || plan == null || rules == null) {
            return false;
        }
        // what is answered to one origin is not for another
        response.addHeader("Vary", ORIGIN);
        String origin = request.getHeader(ORIGIN);
        if (origin == null
                || !rules.allows(origin)
                || !plan.admission().addresses().contains(request.getRemoteAddr())) {
            return false;
        }
        boolean any = rules.origins().contains(CrossOrigin.ANY);
        response.setHeader("Access-Control-Allow-Origin", any ? CrossOrigin.ANY : origin);
        if (rules.credentials()) {
            response.setHeader("Access-Control-Allow-Credentials", "true");
        }
        boolean asks =
                request.getMethod().equals("OPTIONS") && request.getHeader("Access-Control-Request-Method") != null;
        if (!asks) {
            response.setHeader("Access-Control-Expose-Headers", exposed(plan, rules));
            return false;
        }
        response.setHeader("Access-Control-Allow-Methods", METHODS);
        response.setHeader("Access-Control-Allow-Headers", allowed(plan));
        response.setHeader("Access-Control-Max-Age", String.valueOf(rules.keep().toSeconds()));
        response.setStatus(HttpServletResponse.SC_NO_CONTENT);
        return true;
    }

    private static String allowed(ModulePlan plan) {
        Set<String> names = new TreeSet<>(SENT);
        plan.operations()
                .flatMap(operation -> operation.parameters().stream())
                .filter(parameter -> parameter.in() == In.HEADER)
                .map(ParameterDefinition::wireName)
                .forEach(names::add);
        return String.join(", ", names);
    }

    private static String exposed(ModulePlan plan, CrossOrigin rules) {
        Set<String> names = new TreeSet<>(READ);
        names.addAll(rules.expose());
        plan.operations()
                .flatMap(operation -> columns(operation).stream())
                .map(HeaderColumn::name)
                .forEach(names::add);
        return String.join(", ", names);
    }

    private static Collection<HeaderColumn> columns(OperationPlan operation) {
        return switch (operation) {
            case OneRowPlan read -> read.reply().headers();
            case ChangePlan change -> change.reply().headers();
            default -> Set.of();
        };
    }
}
