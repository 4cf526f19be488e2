package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.Team;
import tidybridge.service.Problems;
import tidybridge.service.access.Gatekeeper;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.Visitor;
import tidybridge.service.gateway.WholeAnswer;
import tidybridge.service.live.Onlooker;
import tidybridge.service.run.Refusal;
import tidybridge.service.traffic.RequestId;

/** What all pages of client teams have in common: who asks, the frame around them, and how they are sent. Thread-safe. */
@Component
final class Site {

    static final String JSON = "application/json";
    static final String TEXT = "text/plain;charset=utf-8";
    private static final String HTML = "text/html;charset=utf-8";

    /** What is shown depends on who asks, and may change at any time. */
    private static final String CACHING = "private, no-cache";

    /** Pages of one person are kept nowhere. */
    private static final String NOT_KEPT = "no-store";

    private final Gatekeeper gatekeeper;
    private final LiveAccess access;
    private final SiteWriter writer = new SiteWriter();

    Site(Gatekeeper gatekeeper, LiveAccess access) {
        this.gatekeeper = gatekeeper;
        this.access = access;
    }

    /** Whoever asks; a browser's session counts on pages that only show something, whatever led to them. */
    Visitor visitor(HttpServletRequest request) throws Refusal {
        return gatekeeper.identify(request);
    }

    Onlooker onlooker(HttpServletRequest request) throws Refusal {
        return onlooker(visitor(request), request);
    }

    /** Somebody who looks at modules; whoever belongs to a client team sees what its applications may call. */
    Onlooker onlooker(Visitor visitor, HttpServletRequest request) {
        return new Onlooker(access.now().asTeam(visitor), request);
    }

    /** The client team of whoever asks. */
    Team team(Visitor visitor) throws Refusal {
        Team team = access.now().teamOf(visitor);
        if (team == null) {
            throw new Refusal(
                    visitor.caller().isKnown() ? ProblemKind.NOT_ALLOWED : ProblemKind.SIGN_IN_NEEDED,
                    "Only people of a client team can do that; sign in as one of them.");
        }
        return team;
    }

    /**
     * True when somebody came by a link from elsewhere, with which browsers send no cookie of a session: the page is asked for once more, by
     * itself.
     */
    static boolean isReloadNeeded(Visitor visitor, HttpServletRequest request) {
        return !visitor.caller().isKnown() && "cross-site".equals(request.getHeader("Sec-Fetch-Site"));
    }

    void reload(HttpServletResponse response) throws IOException {
        sendOwn(writer.page("again", Map.of()), HttpServletResponse.SC_OK, response);
    }

    /** Leads to another page after a form was sent (RFC 9110, 15.4.4). */
    static void seeOther(String address, HttpServletResponse response) {
        response.setStatus(HttpServletResponse.SC_SEE_OTHER);
        response.setHeader("Location", address);
        response.setHeader("Cache-Control", NOT_KEPT);
    }

    /** A text as part of a query. */
    static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    /**
     * Sends a page with forms that is for one person.
     *
     * @param values of its template, beside the frame
     * @param form what was filled in
     * @param trouble why it cannot be taken; null for one that was not sent yet
     */
    void sendForm(
            String template,
            SiteFrame frame,
            Map<String, Object> values,
            SiteForm form,
            @Nullable Problem trouble,
            HttpServletResponse response)
            throws IOException {
        Map<String, Object> all = new HashMap<>(values);
        all.put("form", form);
        all.put("trouble", trouble == null ? "" : trouble.detail());
        sendOwn(
                page(template, frame, all),
                trouble == null ? HttpServletResponse.SC_OK : trouble.kind().status(),
                response);
    }

    private static void sendOwn(byte[] page, int status, HttpServletResponse response) throws IOException {
        response.setStatus(status);
        response.setHeader("Cache-Control", NOT_KEPT);
        response.setContentType(HTML);
        response.setContentLength(page.length);
        response.getOutputStream().write(page);
    }

    /**
     * Sends a page.
     *
     * @param values of its template, beside the frame
     */
    void sendPage(
            String template,
            SiteFrame frame,
            Map<String, Object> values,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException {
        send(page(template, frame, values), HTML, request, response);
    }

    private byte[] page(String template, SiteFrame frame, Map<String, Object> values) {
        Map<String, Object> all = new HashMap<>(values);
        all.put("frame", frame);
        return writer.page(template, all);
    }

    static void sendText(String text, String mediaType, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        send(text.getBytes(StandardCharsets.UTF_8), mediaType, request, response);
    }

    static void send(byte[] bytes, String mediaType, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        response.addHeader("Vary", "Authorization, Cookie, Accept");
        WholeAnswer.send(bytes, mediaType, CACHING, request, response);
    }

    /** Answers with a refusal: to people as a page, to programs as every other problem. */
    void refuse(Refusal refusal, HttpServletRequest request, HttpServletResponse response) throws IOException {
        if (!wantsPage(request)) {
            Problems.write(response, refusal);
            return;
        }
        Problem problem = refusal.problem();
        byte[] page = page(
                "refused",
                new SiteFrame(problem.kind().title(), "", null, ""),
                Map.of("problem", problem, "requestId", RequestId.of(response)));
        Problems.head(response, refusal);
        response.setContentType(HTML);
        response.setContentLength(page.length);
        response.getOutputStream().write(page);
    }

    /** True for browsers. */
    static boolean wantsPage(HttpServletRequest request) {
        String accept = request.getHeader("Accept");
        return accept != null && accept.contains("text/html");
    }
}
