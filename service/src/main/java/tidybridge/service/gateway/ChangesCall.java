package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.jooq.exception.DataAccessException;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.reference.ModuleNews;
import tidybridge.core.reference.NewsPage;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.Target;
import tidybridge.service.run.Refusal;

/** Answers with what happened to a module: a page, or a feed. */
final class ChangesCall {

    private ChangesCall() {}

    static void run(
            Target.Changes target,
            LiveModules modules,
            HttpServletRequest request,
            HttpServletResponse response,
            boolean head)
            throws Refusal, IOException {
        ModuleNews news = news(target, modules);
        String origin = ReferenceCall.origin(request);
        String text = target.atom() ? NewsPage.atom(news, origin) : NewsPage.html(news, origin);
        if (!target.atom()) {
            response.setHeader("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'");
        }
        ReferenceCall.send(
                text.getBytes(StandardCharsets.UTF_8),
                target.atom() ? "application/atom+xml;charset=utf-8" : "text/html;charset=utf-8",
                request,
                response,
                head);
    }

    private static ModuleNews news(Target.Changes target, LiveModules modules) throws Refusal {
        try {
            return modules.news(target.module().release().module());
        } catch (DataAccessException e) {
            throw new Refusal(
                    ProblemKind.SOURCE_UNAVAILABLE, "What changed cannot be read at the moment; try again later.");
        }
    }
}
