package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.jooq.exception.DataAccessException;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.reference.ModuleNews;
import tidybridge.core.reference.NewsPage;
import tidybridge.service.OwnAddress;
import tidybridge.service.live.News;
import tidybridge.service.live.Target;
import tidybridge.service.run.Refusal;

/** Answers with what happened to a module: a page, or a feed. */
final class ChangesCall {

    private ChangesCall() {}

    static void run(Target.Changes target, News news, HttpServletRequest request, HttpServletResponse response)
            throws Refusal, IOException {
        ModuleNews told = told(target, news);
        String origin = OwnAddress.of(request);
        String text = target.atom() ? NewsPage.atom(told, origin) : NewsPage.html(told, origin);
        if (!target.atom()) {
            response.setHeader("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'");
        }
        WholeAnswer.send(
                text.getBytes(StandardCharsets.UTF_8),
                target.atom() ? "application/atom+xml;charset=utf-8" : "text/html;charset=utf-8",
                "no-cache",
                request,
                response);
    }

    private static ModuleNews told(Target.Changes target, News news) throws Refusal {
        try {
            return news.of(target.module().release().module());
        } catch (DataAccessException e) {
            throw new Refusal(
                    ProblemKind.SOURCE_UNAVAILABLE, "What changed cannot be read at the moment; try again later.");
        }
    }
}
