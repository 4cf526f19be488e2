package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.Records;
import tidybridge.service.access.Visitor;
import tidybridge.service.run.Refusal;

/** What helps callers in trouble: what a problem means, and why a call of theirs was refused. */
@Controller
class HelpController {

    private final Site site;
    private final References references;
    private final FailedCalls failed;

    HelpController(Site site, References references, Records records) {
        this.site = site;
        this.references = references;
        this.failed = new FailedCalls(records.refusedCalls());
    }

    @GetMapping("/calls")
    void calls(
            @RequestParam(name = "id", required = false) @Nullable String id,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        String asked =
                id == null ? "" : id.strip().substring(0, Math.min(id.strip().length(), FailedCalls.LONGEST_ID));
        site.sendPage(
                "calls",
                SiteFrame.of("What became of a call", "", visitor),
                Map.of("id", asked, "calls", asked.isEmpty() ? List.of() : failed.own(asked, visitor, request)),
                request,
                response);
    }

    /** What the type of a problem leads to: a page for people, lines of text for everything else. */
    @GetMapping("/problems/{label}")
    void problem(@PathVariable("label") String label, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        ProblemKind kind = ProblemKind.labelled(label)
                .orElseThrow(() -> new Refusal(ProblemKind.ROUTE_UNKNOWN, "There is no problem of that name."));
        if (!Site.wantsPage(request)) {
            String text =
                    kind.title() + " (" + kind.status() + ")\n\n" + kind.meaning() + "\n\n" + kind.remedy() + "\n";
            Site.sendText(text, Site.TEXT, request, response);
            return;
        }
        Visitor visitor = site.visitor(request);
        List<ProblemPage.Rule> rules = ProblemPage.rules(kind, references.readable(site.onlooker(visitor, request)));
        site.sendPage(
                "problem",
                SiteFrame.of(kind.title(), kind.meaning(), visitor),
                Map.of("problem", ProblemPage.of(kind, rules)),
                request,
                response);
    }
}
