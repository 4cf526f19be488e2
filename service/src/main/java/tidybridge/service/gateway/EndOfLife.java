package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.live.LiveModule;
import tidybridge.service.run.Refusal;

/**
 * Tells callers since when something is deprecated (RFC 9745), when it ends (RFC 8594), what takes its place (RFC 5829) and where the changes
 * are told; refuses calls after the end. Most operations are not deprecated, and nobody comes here for them.
 */
final class EndOfLife {

    private final LiveModule module;
    private final OperationPlan operation;
    private final @Nullable Deprecation ofModule;
    private final @Nullable Deprecation own;

    /**
     * Takes what is said of an operation.
     *
     * @param ofModule what is said of its module; null for nothing
     */
    EndOfLife(LiveModule module, OperationPlan operation, @Nullable Deprecation ofModule) {
        this.module = module;
        this.operation = operation;
        this.ofModule = ofModule;
        this.own = operation.header().deprecated();
    }

    /**
     * Tells it in the header of the answer.
     *
     * @param path that was called, below which {@code captures} says where its placeholders are
     * @throws Refusal after the end
     */
    void tell(String path, int[] captures, HttpServletResponse response, Clock clock) throws Refusal {
        response.setHeader("Deprecation", "@" + since().getEpochSecond());
        response.addHeader(
                "Link", "</api/" + module.release().module() + "/changes>; rel=\"deprecation\"; type=\"text/html\"");
        String successor = successor(path, captures);
        if (successor != null) {
            response.addHeader("Link", "<" + successor + ">; rel=\"successor-version\"");
        }
        LocalDate ends = ends();
        if (ends == null) {
            return;
        }
        response.setHeader("Sunset", HttpTimes.write(ends.atStartOfDay(ZoneOffset.UTC)));
        if (!clock.instant().isBefore(ends.atStartOfDay(ZoneOffset.UTC).toInstant())) {
            throw new Refusal(
                    ProblemKind.GONE,
                    operation.method() + " " + operation.path().text() + " of " + module.identity() + " ended on "
                            + ends + "." + place(successor));
        }
    }

    private static String place(@Nullable String successor) {
        return successor == null ? " Nothing takes its place." : " Use " + successor + " in its place.";
    }

    /** What says no day counts from the day it was published. */
    private Instant since() {
        LocalDate since = own != null && own.since() != null ? own.since() : ofModule == null ? null : ofModule.since();
        return since == null
                ? module.release().publishedAt()
                : since.atStartOfDay(ZoneOffset.UTC).toInstant();
    }

    private @Nullable LocalDate ends() {
        LocalDate one = own == null ? null : own.ends();
        LocalDate other = ofModule == null ? null : ofModule.ends();
        return one == null || other != null && other.isBefore(one) ? other : one;
    }

    /** What takes the operation's own place, or its module's. */
    private @Nullable String successor(String path, int[] captures) {
        String named = own == null ? null : own.successor();
        if (named != null) {
            String filled = filled(named, path, captures);
            return filled.startsWith("/") ? "/api/" + module.identity() + filled : "/api/" + filled;
        }
        String other = ofModule == null ? null : ofModule.successor();
        return other == null ? null : "/api/" + other + "/openapi.json";
    }

    /** A path with the request's own values in the place of the names in braces. */
    private String filled(String template, String path, int[] captures) {
        List<String> placeholders = operation.path().placeholders();
        String filled = template;
        for (int i = 0; i < placeholders.size(); i++) {
            filled = filled.replace(
                    "{" + placeholders.get(i) + "}", path.substring(captures[2 * i], captures[2 * i + 1]));
        }
        return filled;
    }
}
