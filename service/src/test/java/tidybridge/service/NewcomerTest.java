package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import io.modelcontextprotocol.client.McpClient;
import io.modelcontextprotocol.client.McpSyncClient;
import io.modelcontextprotocol.client.transport.HttpClientStreamableHttpTransport;
import io.modelcontextprotocol.spec.McpSchema;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/**
 * The whole way of somebody new, as they go it: a field that they look for, what is said of it, access that is asked for and given, a token,
 * and then the same row from the page, from the line that the page shows, from the typed client and from an assistant.
 */
class NewcomerTest {

    private static final String PASSWORD = "lantern-44-of-the-quay";

    @TempDir
    private Path folder;

    private final RunningService service = SharedService.get();
    private final Callers callers = new Callers(service);
    private final String application = Callers.fresh("season-plan");

    private String run(Map<String, String> more, String... words) throws Exception {
        Path out = folder.resolve("out.txt");
        ProcessBuilder builder = new ProcessBuilder(words)
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(out.toFile());
        builder.environment().putAll(more);
        Process process = builder.start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(process.exitValue()).as(Files.readString(out)).isZero();
        return Files.readString(out);
    }

    private void join(Page page) throws Exception {
        String team = Callers.fresh("planners");
        callers.desk("PUT", "/desk/teams/" + team, Map.of("title", "Season planners", "contact", "p@marrowby.example"));
        HttpResponse<String> invitation = callers.desk("POST", "/desk/teams/" + team + "/invitations", Map.of());
        page.navigate(RunningService.json(invitation).path("link").asString());
        page.locator("input[name=full-name]").fill("Odo Vance");
        page.locator("input[name=name]").fill(Callers.fresh("odo.vance"));
        page.locator("input[name=password]").fill(PASSWORD);
        page.locator("button.main").click();
        page.locator("h1:text-is('Season planners')").waitFor();
    }

    private String keyOfANewApplication(Page page) {
        page.locator("input[name=application]").fill(application);
        page.locator("form[action='/team/applications'] button").click();
        page.locator("h1:text-is('" + application + "')").waitFor();
        page.locator("input[name=credential]").fill("first");
        page.locator("form[action$='/credentials'] button").click();
        return Member.key(page.locator(".notice pre code").first().textContent());
    }

    private void allow(BrowserContext owner) throws Exception {
        Page console = owner.newPage();
        HttpResponse<String> link = callers.desk("POST", "/desk/sign-in-codes", Map.of());
        console.navigate(
                service.address() + RunningService.json(link).path("path").asString());
        console.locator("nav a:has-text('Requests')").click();
        console.locator(".ant-card:has-text('" + application + "') button:has-text('Allow')")
                .click();
        console.locator(".ant-modal textarea").fill("Welcome");
        console.locator(".ant-modal button:has-text('Allow')").click();
        console.locator(".ant-modal:has-text('Welcome'), .ant-card:has-text('Welcome'), .ant-modal:has-text('mail')")
                .first()
                .waitFor();
    }

    @Test
    void fromAFieldToTheSameRowFourTimes() throws Exception {
        service.publishDemo();
        try (BrowserContext newcomer = Chromium.person();
                BrowserContext owner = Chromium.person()) {
            Page page = newcomer.newPage();
            page.navigate(service.address() + "/");
            page.locator("input[type=search]").first().fill("vessel.registration");
            page.keyboard().press("Enter");
            page.locator("a[href='/reference/moorings/v1/getBookings#field-vessel.registration']")
                    .click();
            PlaywrightAssertions.assertThat(page.locator("h1")).containsText("/bookings");
            String understood = page.locator("main").innerText();
            assertThat(understood).contains("moorings.book", "Bookings, the latest first", "vessel.registration");

            join(page);
            String key = keyOfANewApplication(page);
            page.navigate(service.address() + "/reference/moorings/v1/getBookings");
            page.locator("a:text-is('Ask for access')").click();
            page.locator("textarea").fill("We plan the season.");
            page.locator("button.main").click();
            page.locator(".state.waiting").waitFor();
            allow(owner);

            HttpResponse<String> got = service.send(
                    "POST",
                    "/oauth/token",
                    "grant_type=client_credentials",
                    "Content-Type",
                    "application/x-www-form-urlencoded",
                    "Authorization",
                    Callers.basic(application, key));
            assertThat(got.statusCode()).as(got.body()).isEqualTo(200);
            String token = RunningService.json(got).path("access_token").asString();

            page.navigate(service.address() + "/reference/moorings/v1/getBookings");
            page.locator(".credential").fill(token);
            page.locator(".try summary").first().click();
            page.locator("input[name=limit]").fill("1");
            page.locator("button.call").click();
            Locator answer = page.locator(".try .answer");
            PlaywrightAssertions.assertThat(answer).containsText("200, after");
            String registration = registration(answer.locator("pre").innerText());

            String line = page.locator("details[data-language='curl'] code").innerText();
            assertThat(line).startsWith("curl ").contains("$BRIDGE_KEY");
            String called = run(
                    Map.of("BRIDGE_KEY", token), "bash", "-c", line.replaceFirst("bookings'", "bookings?limit=1' -sS"));
            assertThat(registration(called)).isEqualTo(registration);

            Files.writeString(
                    folder.resolve("client.ts"),
                    service.get("/reference/moorings/v1/client.ts").body());
            Files.writeString(folder.resolve("package.json"), "{\"type\": \"module\"}");
            Files.writeString(folder.resolve("use.ts"), """
                    import { MooringsV1 } from "./client.js";
                    const { body } = await new MooringsV1({ credential: "%s" }).getBookings({ limit: 1 });
                    console.log(JSON.stringify(body));
                    """.formatted(token));
            Path compiler = Path.of("..", "console", "node_modules", "typescript", "bin", "tsc")
                    .toAbsolutePath()
                    .normalize();
            run(
                    Map.of(),
                    "node",
                    compiler.toString(),
                    "--strict",
                    "--target",
                    "es2022",
                    "--module",
                    "es2022",
                    "--moduleResolution",
                    "bundler",
                    "--lib",
                    "es2022,dom,dom.iterable",
                    "use.ts");
            assertThat(registration(run(Map.of(), "node", "use.js"))).isEqualTo(registration);

            page.navigate(service.address() + "/reference/moorings/v1");
            String tools = page.locator("dt:text-is('Assistants') + dd code").innerText();
            assertThat(registration(assisted(tools, token))).isEqualTo(registration);
        }
    }

    private String assisted(String address, String token) {
        var transport = HttpClientStreamableHttpTransport.builder(service.address())
                .endpoint(address.replace(service.address(), ""))
                .httpRequestCustomizer(
                        (request, method, at, body, context) -> request.setHeader("Authorization", "Bearer " + token))
                .build();
        try (McpSyncClient assistant = McpClient.sync(transport).build()) {
            assistant.initialize();
            McpSchema.CallToolResult result =
                    assistant.callTool(new McpSchema.CallToolRequest("getBookings", Map.of("limit", 1)));
            assertThat(result.isError()).isFalse();
            return ((McpSchema.TextContent) result.content().getFirst()).text();
        }
    }

    private static String registration(String json) {
        JsonNode rows =
                tools.jackson.databind.json.JsonMapper.shared().readTree(json).path("data");
        assertThat(rows.size()).as(json).isEqualTo(1);
        String registration = rows.path(0).path("vessel").path("registration").asString();
        assertThat(List.of(registration)).allMatch(text -> text.matches("MW-\\d{5}"));
        return registration;
    }
}
