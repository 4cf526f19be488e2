package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.route.PathTemplate;

/** A route with what answers on it. */
public record RoutePlan(PathTemplate path, List<OperationPlan> operations) {
    public RoutePlan {
        operations = List.copyOf(operations);
    }
}
