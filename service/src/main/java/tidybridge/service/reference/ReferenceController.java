package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.directory.Hit;
import tidybridge.core.directory.SearchWords;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.reference.OperationText;
import tidybridge.core.reference.ReferenceText;
import tidybridge.core.sample.RecordedExample;
import tidybridge.core.sample.SampleCall;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.Visitor;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.Onlooker;
import tidybridge.service.live.ReferenceFiles;
import tidybridge.service.release.Examples;
import tidybridge.service.run.Refusal;

/** The pages of a module's reference. Each is whole without a script, and made of what is live, so that it is always true. */
@Controller
class ReferenceController {

    private static final int MOST_PLACES = 100;

    private final Site site;
    private final References references;
    private final Directory directory;
    private final Guides guides;
    private final Examples examples;

    ReferenceController(Site site, References references, Directory directory, Guides guides, Examples examples) {
        this.directory = directory;
        this.site = site;
        this.references = references;
        this.guides = guides;
        this.examples = examples;
    }

    /** Whoever shortens an address comes to all modules. */
    @GetMapping("/reference")
    String all() {
        return "redirect:/directory";
    }

    /** The newest major version that whoever asks may read. */
    @GetMapping("/reference/{module}")
    String newest(@PathVariable("module") String name, HttpServletRequest request) throws Refusal {
        return "redirect:/reference/" + references.newest(name, site.onlooker(request));
    }

    @GetMapping("/reference/{module}/{major}")
    void module(
            @PathVariable("module") String name,
            @PathVariable("major") String major,
            @RequestParam(name = "q", required = false) @Nullable String words,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        Onlooker onlooker = site.onlooker(visitor, request);
        LiveModule module = references.readable(name, major, onlooker);
        ModuleHead head = references.head(module, onlooker, null);
        String asked = Question.of(words, null, null).text();
        site.sendPage(
                "reference",
                SiteFrame.of(head.title(), head.about(), visitor),
                Map.of("head", head, "asked", asked, "hits", hits(module, asked), "news", directory.latest(module)),
                request,
                response);
    }

    private static List<Hit> hits(LiveModule module, String asked) {
        ReferenceFiles reference = module.reference();
        return asked.isEmpty() || reference == null
                ? List.of()
                : reference.index().places(SearchWords.of(asked), MOST_PLACES);
    }

    @GetMapping("/reference/{module}/{major}/{operation}")
    void operation(
            @PathVariable("module") String name,
            @PathVariable("major") String major,
            @PathVariable("operation") String id,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        Onlooker onlooker = site.onlooker(visitor, request);
        LiveModule module = references.readable(name, major, onlooker);
        ReferenceText text = References.text(module);
        OperationTerms terms = text.terms(id)
                .orElseThrow(() -> new Refusal(
                        ProblemKind.ROUTE_UNKNOWN,
                        "The reference of " + module.identity() + " has no operation of that name."));
        OperationText operation = text.operation(terms);
        ModuleHead head = references.head(module, onlooker, id);
        SampleCall sample = SampleCall.of(text.contract(), terms);
        site.sendPage(
                "operation",
                SiteFrame.of(operation.label() + " - " + head.title(), operation.about(), visitor),
                Map.of(
                        "head",
                        head,
                        "operation",
                        operation,
                        "code",
                        Code.of(sample, OwnAddress.of(request)),
                        "example",
                        example(module, terms, onlooker),
                        "form",
                        TryForm.of(text.contract(), terms, operation, sample, visitor.holds(ServicePrivilege.REHEARSE)),
                        "ask",
                        ask(module, terms, onlooker)),
                request,
                response);
    }

    /** Where access is asked for; empty for whoever needs none. */
    private static String ask(LiveModule module, OperationTerms operation, Onlooker onlooker) {
        List<String> needed = operation.needs().anyOf();
        return needed.isEmpty() || operation.needs().areMetBy(onlooker.caller().privileges())
                ? ""
                : "/team/ask?module=" + module.identity() + "&privilege=" + needed.getFirst();
    }

    /** Rows are shown to those only who could call for them. */
    private ExampleView example(LiveModule module, OperationTerms operation, Onlooker onlooker) {
        Optional<RecordedExample> recorded =
                examples.of(module, operation.label()).filter(example -> example.body() != null);
        return onlooker.calls(module, operation.needs())
                ? new ExampleView(recorded.orElse(null), false)
                : new ExampleView(null, recorded.isPresent());
    }

    @GetMapping("/reference/{module}/{major}/guides/{guide}")
    void guide(
            @PathVariable("module") String name,
            @PathVariable("major") String major,
            @PathVariable("guide") String guide,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        Onlooker onlooker = site.onlooker(visitor, request);
        LiveModule module = references.readable(name, major, onlooker);
        ModuleHead head = references.head(module, onlooker, "guides/" + guide);
        Guides.Entry entry = head.guides().stream()
                .filter(one -> one.name().equals(guide))
                .findFirst()
                .orElseThrow(() -> new Refusal(
                        ProblemKind.ROUTE_UNKNOWN,
                        "The reference of " + module.identity() + " has no guide of that name."));
        site.sendPage(
                "guide",
                SiteFrame.of(entry.title() + " - " + head.title(), "", visitor),
                Map.of("head", head, "html", guides.html(module.release(), guide, addresses(head))),
                request,
                response);
    }

    private static Map<String, String> addresses(ModuleHead head) {
        return head.sections().stream()
                .flatMap(tag -> tag.operations().stream())
                .collect(Collectors.toMap(ReferenceText.Line::label, operation -> head.address(operation.id())));
    }
}
