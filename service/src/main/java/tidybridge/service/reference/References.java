package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tidybridge.core.contract.Contract;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.reference.ReferenceText;
import tidybridge.service.OwnAddress;
import tidybridge.service.assistant.AssistantServlet;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.Onlooker;
import tidybridge.service.live.ReferenceFiles;
import tidybridge.service.run.Refusal;

/** Finds the references that somebody may read. Thread-safe. */
@Component
final class References {

    private final LiveModules modules;
    private final Directory directory;
    private final Guides guides;

    References(LiveModules modules, Directory directory, Guides guides) {
        this.modules = modules;
        this.directory = directory;
        this.guides = guides;
    }

    /**
     * A module whose reference somebody may read.
     *
     * @throws Refusal with the same words for what is not there, and for what they may not know of
     */
    LiveModule readable(String name, String major, Onlooker onlooker) throws Refusal {
        LiveModule module = modules.completed("/" + name).module(name + "/" + major);
        if (module == null || !onlooker.reads(module)) {
            throw unknown();
        }
        return module;
    }

    /** Every module that somebody may read of, as far as it is compiled. */
    List<LiveModule> readable(Onlooker onlooker) {
        return modules.now().modules().stream().filter(onlooker::reads).toList();
    }

    /** The identity of the newest major version that somebody may read of. */
    String newest(String name, Onlooker onlooker) throws Refusal {
        List<String> majors = majors(name, onlooker);
        if (majors.isEmpty()) {
            throw unknown();
        }
        return majors.getLast();
    }

    private static Refusal unknown() {
        return new Refusal(ProblemKind.MODULE_UNKNOWN, "There is no module of that name and version that you may see.");
    }

    private List<String> majors(String name, Onlooker onlooker) {
        return modules.completed("/" + name).modules().stream()
                .filter(module -> module.release().module().equals(name) && onlooker.reads(module))
                .map(LiveModule::identity)
                .toList();
    }

    /**
     * The reference of a module in words.
     *
     * @throws Refusal while it cannot be served
     */
    static ReferenceText text(LiveModule module) throws Refusal {
        ReferenceFiles reference = module.reference();
        if (reference == null) {
            throw new Refusal(
                    ProblemKind.SOURCE_UNAVAILABLE, "The module cannot be called at this moment; try again later.");
        }
        return reference.text();
    }

    /** What a module promises; refused while it cannot be served. */
    static Contract promised(LiveModule module) throws Refusal {
        return text(module).contract();
    }

    /**
     * What the pages of a module share.
     *
     * @param here the operation or guide of the page; null on the first page
     */
    ModuleHead head(LiveModule module, Onlooker onlooker, @Nullable String here) {
        LiveModule.Said said = module.said();
        HttpServletRequest request = onlooker.request();
        ReferenceFiles reference = module.reference();
        return new ModuleHead(
                module.identity(),
                module.release().module(),
                module.release().version().toString(),
                said.title(),
                said.about(),
                directory.state(module),
                said.deprecated() == null ? null : said.deprecated().words(),
                said.listing().owner(),
                said.listing().contact(),
                said.listing().terms(),
                said.listing().tags(),
                OwnAddress.of(request) + "/api/" + module.identity(),
                OwnAddress.of(request) + AssistantServlet.PATH + module.identity(),
                majors(module.release().module(), onlooker),
                guides.of(module.release()),
                reference == null ? null : reference.text(),
                here);
    }
}
