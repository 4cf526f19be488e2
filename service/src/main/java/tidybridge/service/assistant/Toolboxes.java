package tidybridge.service.assistant;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.util.List;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.assistant.Tool;
import tidybridge.core.assistant.Toolbox;
import tidybridge.core.bind.Caller;
import tidybridge.core.contract.Contract;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.ReferenceFiles;
import tidybridge.service.run.Refusal;

/** The tools of each release, made when somebody first asks and given up when memory is short. Thread-safe. */
final class Toolboxes {

    private static final int MOST_KEPT = 200;

    private final Cache<Long, Toolbox> kept =
            Caffeine.newBuilder().maximumSize(MOST_KEPT).softValues().build();

    /**
     * What a module offers to whoever may use all of it.
     *
     * @throws Refusal while it cannot be called
     */
    Toolbox of(LiveModule module) throws Refusal {
        ReferenceFiles reference = module.reference();
        if (reference == null) {
            throw new Refusal(
                    ProblemKind.SOURCE_UNAVAILABLE, "The module cannot be called at this moment; try again later.");
        }
        Contract contract = reference.text().contract();
        return kept.get(module.release().id(), id -> Toolbox.of(contract));
    }

    /** Those of the tools that somebody may use. */
    static List<Tool> usable(Toolbox toolbox, Caller caller) {
        return toolbox.tools().stream().filter(tool -> isUsable(tool, caller)).toList();
    }

    static boolean isUsable(Tool tool, Caller caller) {
        return tool.operation().needs().areMetBy(caller.privileges())
                && (!tool.rehearsal() || caller.privileges().test(ServicePrivilege.REHEARSE.privilege()));
    }
}
