package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.reference.NewsPage;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.Visitor;
import tidybridge.service.run.Refusal;

/** The directory, for people and for programs. */
@Controller
class DirectoryController {

    private static final String ATOM = "application/atom+xml;charset=utf-8";

    private final Site site;
    private final Directory directory;

    DirectoryController(Site site, Directory directory) {
        this.site = site;
        this.directory = directory;
    }

    /** Whoever works here meets the console, everybody else what there is to be called. */
    @GetMapping("/")
    @Nullable
    String first(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        Visitor visitor = site.visitor(request);
        if (worksHere(visitor)) {
            return "forward:/index.html";
        }
        sendPage(Question.ALL, visitor, request, response);
        return null;
    }

    private static boolean worksHere(Visitor visitor) {
        return visitor.session() != null
                && List.of(ServicePrivilege.values()).stream().anyMatch(visitor::holds);
    }

    @GetMapping("/directory")
    void directory(
            @RequestParam(name = "q", required = false) @Nullable String words,
            @RequestParam(name = "owner", required = false) @Nullable String owner,
            @RequestParam(name = "tag", required = false) @Nullable String tag,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        String accept = request.getHeader("Accept");
        boolean program = accept != null && accept.contains(Site.JSON) && !Site.wantsPage(request);
        Question question = Question.of(words, owner, tag);
        if (program) {
            sendJson(question, request, response);
        } else {
            sendPage(question, site.visitor(request), request, response);
        }
    }

    @GetMapping("/directory.json")
    void directoryAsJson(
            @RequestParam(name = "q", required = false) @Nullable String words,
            @RequestParam(name = "owner", required = false) @Nullable String owner,
            @RequestParam(name = "tag", required = false) @Nullable String tag,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        sendJson(Question.of(words, owner, tag), request, response);
    }

    private void sendJson(Question question, HttpServletRequest request, HttpServletResponse response)
            throws IOException, Refusal {
        List<ModuleCard> cards = cards(directory.find(site.onlooker(request), question));
        Site.send(DirectoryDocuments.json(cards, OwnAddress.of(request)), Site.JSON, request, response);
    }

    private void sendPage(Question question, Visitor visitor, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        Directory.Finds finds = directory.find(site.onlooker(visitor, request), question);
        SiteFrame frame = SiteFrame.of("Modules", "Modules to call over HTTP, with their references.", visitor)
                .asking(question.text());
        site.sendPage(
                "directory",
                frame,
                Map.of("question", question, "finds", finds, "cards", cards(finds)),
                request,
                response);
    }

    private static List<ModuleCard> cards(Directory.Finds finds) {
        return finds.entries().stream().map(ModuleCard::of).toList();
    }

    /** RFC 9727. */
    @GetMapping("/.well-known/api-catalog")
    void catalog(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        List<ModuleCard> cards = cards(directory.find(site.onlooker(request), Question.ALL));
        response.setHeader("Link", "</.well-known/api-catalog>; rel=\"api-catalog\"");
        byte[] linkset = DirectoryDocuments.linkset(cards, OwnAddress.of(request));
        Site.send(linkset, DirectoryDocuments.LINKSET, request, response);
    }

    @GetMapping("/directory.atom")
    void news(HttpServletRequest request, HttpServletResponse response) throws IOException, Refusal {
        try {
            String feed = NewsPage.atom(
                    "What changed in the modules",
                    directory.news(site.onlooker(request)),
                    "/directory",
                    "/directory.atom",
                    OwnAddress.of(request));
            Site.sendText(feed, ATOM, request, response);
        } catch (DataAccessException e) {
            throw new Refusal(
                    ProblemKind.SOURCE_UNAVAILABLE, "What changed cannot be read at the moment; try again later.");
        }
    }
}
