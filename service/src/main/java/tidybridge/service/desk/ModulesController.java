package tidybridge.service.desk;

import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.desk.Views.ModuleView;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.node.Nodes;
import tidybridge.service.release.DriftWatch;

/** What is live. */
@RestController
@RequestMapping("/desk")
class ModulesController {

    private final LiveModules modules;
    private final DriftWatch drift;
    private final Nodes nodes;

    ModulesController(LiveModules modules, DriftWatch drift, Nodes nodes) {
        this.modules = modules;
        this.drift = drift;
        this.nodes = nodes;
    }

    record ModulesView(List<ModuleView> modules) {}

    record StatusView(String state, int modules) {}

    @GetMapping("/status")
    @DeskNeeds(ServicePrivilege.READ)
    StatusView status() {
        return new StatusView("ready", modules.now().modules().size());
    }

    @GetMapping("/modules")
    @DeskNeeds(ServicePrivilege.READ)
    ModulesView all() {
        return new ModulesView(modules.now().modules().stream().map(this::view).toList());
    }

    @GetMapping("/modules/{name}/v{major:\\d{1,5}}")
    @DeskNeeds(ServicePrivilege.READ)
    ModuleView one(@PathVariable("name") String name, @PathVariable("major") int major) {
        LiveModule module = modules.now().module(name + "/v" + major);
        if (module == null) {
            throw new DeskRefusal(ProblemKind.MODULE_UNKNOWN, "No module of that name and version is live.");
        }
        return view(module);
    }

    private ModuleView view(LiveModule module) {
        return ModuleView.of(module, drift.of(module), nodes.elsewhere(module.identity()));
    }
}
