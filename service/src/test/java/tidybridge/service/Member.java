package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** One of a client team's people, who uses its pages as a browser does: with a cookie, and forms from the service's own pages. */
final class Member {

    private static final String PASSWORD = "lantern-44-of-the-quay";
    private static final Pattern KEY = Pattern.compile("tbk_[0-9a-f]{16}_[A-Za-z0-9_-]{43}");

    private final RunningService service;
    private String cookie = "";

    private Member(RunningService service) {
        this.service = service;
    }

    /** Somebody who has shown nothing. */
    static Member nobody(RunningService service) {
        return new Member(service);
    }

    /** Joins by the link of an invitation. */
    static Member joining(RunningService service, String link, String name) throws Exception {
        Member member = nobody(service);
        String code = link.replaceFirst(".*code=", "");
        HttpResponse<String> joined = member.post(
                "/team/invitation", "code", code, "name", name, "full-name", "Ida Lind", "password", PASSWORD);
        assertThat(joined.statusCode()).as(joined.body()).isEqualTo(303);
        member.keep(joined);
        return member;
    }

    HttpResponse<String> signIn(String name) throws Exception {
        HttpResponse<String> signedIn = post("/team/sign-in", "name", name, "password", PASSWORD, "back", "/team");
        keep(signedIn);
        return signedIn;
    }

    private void keep(HttpResponse<String> response) {
        response.headers().allValues("Set-Cookie").stream()
                .filter(one -> one.startsWith("tidy_session="))
                .forEach(one -> cookie = one.replaceFirst(";.*", ""));
    }

    HttpResponse<String> get(String path) throws Exception {
        return service.send("GET", path, "", "Accept", "text/html", "Cookie", cookie);
    }

    /** Sends a form; the fields are names and values in turn. */
    HttpResponse<String> post(String path, String... fields) throws Exception {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < fields.length; i += 2) {
            parts.add(encoded(fields[i]) + "=" + encoded(fields[i + 1]));
        }
        return service.send(
                "POST",
                path,
                parts.isEmpty() ? "none=" : String.join("&", parts),
                "Content-Type",
                "application/x-www-form-urlencoded",
                "Accept",
                "text/html",
                "Origin",
                service.address(),
                "Cookie",
                cookie);
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    /** Makes an application, and a key for it. */
    String application(String name) throws Exception {
        HttpResponse<String> made = post("/team/applications", "application", name, "about", "Shows free berths");
        assertThat(made.statusCode()).as(made.body()).isEqualTo(303);
        HttpResponse<String> keyed = post("/team/applications/" + name + "/credentials", "credential", "first");
        assertThat(keyed.statusCode()).as(keyed.body()).isEqualTo(200);
        return key(keyed.body());
    }

    /** The key that a page shows. */
    static String key(String page) {
        Matcher key = KEY.matcher(page);
        assertThat(key.find()).as(page).isTrue();
        return key.group();
    }
}
