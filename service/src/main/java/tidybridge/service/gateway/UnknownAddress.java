package tidybridge.service.gateway;

import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.text.Nearest;
import tidybridge.service.live.Live;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.RetiredModule;
import tidybridge.service.run.Refusal;

/** A path below {@code /api} that leads nowhere: says whether it is the module, its version or the route that is not there. */
final class UnknownAddress {

    /** A text of the caller's own that is longer is none of the known names. */
    private static final int LONGEST_COMPARED = 60;

    private final Live live;
    private final String name;
    private final String version;
    private final String route;

    /** Reads a path, {@code /moorings/v1/berths}. */
    UnknownAddress(Live live, String path) {
        String[] parts = path.split("/", 4);
        this.live = live;
        this.name = parts.length > 1 ? parts[1] : "";
        this.version = parts.length > 2 ? parts[2] : "";
        this.route = parts.length > 3 ? "/" + parts[3] : "/";
    }

    /** The module that the path would be of; null when there is none. */
    @Nullable
    LiveModule module() {
        return live.module(name + "/" + version);
    }

    /** The module that the path was of; null when there never was one. */
    @Nullable
    RetiredModule retired() {
        return live.retired(name + "/" + version);
    }

    /** For a caller who might have called it. */
    Refusal gone(RetiredModule gone) {
        String successor = live.successor(gone);
        String reason = gone.retirement().reason();
        String detail = "The module " + gone.retirement().identity() + " was retired on "
                + gone.retirement().at().atOffset(ZoneOffset.UTC).toLocalDate()
                + (reason == null ? "." : ": " + reason + (reason.endsWith(".") ? "" : "."))
                + (successor == null ? "" : " Use /api/" + successor + " in its place.");
        return successor == null
                ? new Refusal(ProblemKind.GONE, detail)
                : new Refusal(
                        Problem.of(ProblemKind.GONE, detail),
                        Map.of("Link", "</api/" + successor + "/openapi.json>; rel=\"successor-version\""));
    }

    /**
     * Names those modules only that the caller may know of.
     *
     * @param admitted whether a module is one of them
     */
    Refusal moduleUnknown(Predicate<LiveModule> admitted) {
        List<String> identities = live.modules().stream()
                .filter(admitted)
                .map(LiveModule::identity)
                .toList();
        List<String> versions = identities.stream()
                .filter(identity -> identity.startsWith(name + "/"))
                .toList();
        return new Refusal(
                ProblemKind.MODULE_UNKNOWN,
                versions.isEmpty()
                        ? "No module of that name is published here."
                                + Nearest.hint(compared(name + "/" + version), identities)
                        : "The module is published as " + String.join(", ", versions)
                                + "; the version belongs into the address.");
    }

    /** For a caller who was let in. */
    Refusal routeUnknown(LiveModule module, Arrival arrival) {
        ModulePlan plan = module.plan();
        if (plan == null) {
            ProblemKind kind = module.findings().isEmpty() ? ProblemKind.SOURCE_UNAVAILABLE : ProblemKind.FAILED;
            return new Refusal(kind, kind.meaning());
        }
        List<String> routes = plan.routes().stream()
                .filter(known -> known.operations().stream().anyMatch(operation -> arrival.meets(operation.needs())))
                .map(known -> known.path().text())
                .toList();
        return new Refusal(
                ProblemKind.ROUTE_UNKNOWN,
                noRoute(module) + Nearest.hint(compared(route), routes) + " Its reference is " + plan.basePath()
                        + "/openapi.json.");
    }

    /** The beginning of what is told of a path that leads nowhere. */
    static String noRoute(LiveModule module) {
        return "The module " + module.identity() + " has no route that matches.";
    }

    private static String compared(String text) {
        return text.length() <= LONGEST_COMPARED ? text : "";
    }
}
