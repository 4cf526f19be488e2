package tidybridge.service.run;

import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.answer.RowWriters;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.In;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RoutePlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.route.Router;

/** The reads of a module that tell states apart, by the paths they answer. Immutable and thread-safe. */
public final class ModuleStates {

    private final Router<RunnableOperation.Guard> reads;

    private ModuleStates(Router<RunnableOperation.Guard> reads) {
        this.reads = reads;
    }

    public static ModuleStates of(ModulePlan module, MaskKey maskKey) {
        Router.Builder<RunnableOperation.Guard> reads = new Router.Builder<>();
        for (RoutePlan route : module.routes()) {
            for (OperationPlan operation : route.operations()) {
                if (operation instanceof RowPlan read && needsOnlyItsPath(read)) {
                    reads.add(route.path(), new RunnableOperation.Guard(read, new RowWriters(read.fields(), maskKey)));
                }
            }
        }
        return new ModuleStates(reads.build());
    }

    private static boolean needsOnlyItsPath(RowPlan read) {
        return read.method().isSafe()
                && read.reply().tellsState()
                && read.parameters().stream().noneMatch(parameter -> parameter.in() != In.PATH && parameter.required());
    }

    /** A read of one place, and the request as it sees it. */
    record Found(RunnableOperation.Guard read, Inputs inputs) {}

    /**
     * Finds the read that answers for a place below the module.
     *
     * @param location {@code /bookings/12}
     * @param request whose caller asks
     * @return null when none does, or when the location is another kind of address
     */
    @Nullable
    Found at(String location, Inputs request) {
        int[] captures = new int[2 * Router.MOST_CAPTURES];
        boolean plain = location.startsWith("/") && location.indexOf('?') < 0 && location.indexOf('#') < 0;
        RunnableOperation.Guard read = plain ? reads.match(location, 0, captures) : null;
        return read == null ? null : new Found(read, PathInputs.at(location, captures, request));
    }
}
