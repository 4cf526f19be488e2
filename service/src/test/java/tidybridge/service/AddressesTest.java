package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.document;

import java.io.InputStream;
import java.net.Socket;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** Addresses, methods, formats and callers that the gateway knows, and those it does not. */
class AddressesTest {

    @RegisterExtension
    static final DemoService DEMO = new DemoService();

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    /api/mooring/v1/berths  | module-unknown | Did you mean 'moorings/v1'?
                    /api/moorings/v9/berths | module-unknown | published as moorings/v1
                    /api/moorings/v1/berth  | route-unknown  | Did you mean '/berths'?
                    /api/moorings/v1/berths/| route-unknown  | no route that matches
                    /api/moorings           | module-unknown | published as moorings/v1
                    /api/                   | module-unknown | No module of that name
                    /nowhere                | route-unknown  | nothing at this address
                    """)
    void whatIsNotThereIsToldApart(String path, String kind, String detail) throws Exception {
        JsonNode problem = document(DEMO.running().get(path), 404);
        assertThat(problem.path("type").asString()).isEqualTo("/problems/" + kind);
        assertThat(problem.path("detail").asString()).contains(detail);
        assertThat(DEMO.running().get("/problems/" + kind).statusCode()).isEqualTo(200);
    }

    @Test
    void otherMethodsAreRefusedWithTheOnesThatWork() throws Exception {
        for (String method : new String[] {"POST", "PUT", "PATCH", "DELETE"}) {
            HttpResponse<String> response = RunningService.send(DEMO.running()
                    .request("/api/moorings/v1/basins")
                    .method(method, HttpRequest.BodyPublishers.noBody()));
            document(response, 405);
            assertThat(response.headers().firstValue("Allow")).hasValue("GET, HEAD, OPTIONS");
        }
        HttpResponse<String> options = RunningService.send(DEMO.running()
                .request("/api/moorings/v1/basins")
                .method("OPTIONS", HttpRequest.BodyPublishers.noBody()));
        assertThat(options.statusCode()).isEqualTo(204);
        assertThat(options.headers().firstValue("Allow")).hasValue("GET, HEAD, OPTIONS");
    }

    @Test
    void headHasTheFieldsOfGetAndNoBody() throws Exception {
        HttpResponse<String> get = DEMO.running().get("/api/moorings/v1/berths/17");
        HttpResponse<String> head = RunningService.send(DEMO.running()
                .request("/api/moorings/v1/berths/17")
                .method("HEAD", HttpRequest.BodyPublishers.noBody()));
        assertThat(head.statusCode()).isEqualTo(200);
        assertThat(head.body()).isEmpty();
        assertThat(head.headers().firstValue("Content-Length"))
                .isEqualTo(get.headers().firstValue("Content-Length"));
        HttpResponse<String> missing = RunningService.send(DEMO.running()
                .request("/api/moorings/v1/berths/99999")
                .method("HEAD", HttpRequest.BodyPublishers.noBody()));
        assertThat(missing.statusCode()).isEqualTo(404);
    }

    @ParameterizedTest
    @CsvSource({
        "text/csv,406",
        "application/json;q=0,406",
        "'text/html, application/json;q=0.5',200",
        "'application/json;q=0, */*',406",
        "application/*,200",
        "text/*,406",
        "'',200"
    })
    void theFormatIsNegotiated(String accept, int status) throws Exception {
        HttpResponse<String> response = RunningService.send(
                DEMO.running().request("/api/moorings/v1/basins").header("Accept", accept));
        assertThat(response.statusCode()).isEqualTo(status);
    }

    @Test
    void aLongAddressIsAProblem() throws Exception {
        document(DEMO.running().get("/api/moorings/v1/berths?from=" + "a".repeat(9_000)), 414);
        document(DEMO.running().get("/api/moorings/v1/berths?from=" + "a".repeat(70_000)), 400);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "GET /api/moorings/v1/berths?x=| HTTP/1.1\r\nHost: localhost\r\n\r\n",
                "GET nowhere HTTP/1.1\r\nHost: localhost\r\n\r\n",
                "GET /api/moorings/v1/basins HTTP/1.1\r\n\r\n",
                "GET /api/moorings/v1/basins HTTP/9.9\r\nHost: localhost\r\n\r\n",
                "GET /api/../desk/modules HTTP/1.1\r\nHost: localhost\r\n\r\n",
                "GET /api/moorings/v1/berths/%00 HTTP/1.1\r\nHost: localhost\r\n\r\n",
                "nonsense\r\n\r\n"
            })
    void whatIsNoGoodHttpIsAProblemDocumentToo(String request) throws Exception {
        try (Socket socket = new Socket("127.0.0.1", DEMO.running().port())) {
            socket.setSoTimeout(3_000);
            socket.getOutputStream().write(request.getBytes(StandardCharsets.ISO_8859_1));
            socket.getOutputStream().flush();
            String answer = readAnswer(socket.getInputStream());
            assertThat(answer).startsWith("HTTP/1.1 ").doesNotContain("<html").contains("application/problem+json");
            assertThat(answer.substring(9, 10)).isIn("4", "5");
        }
    }

    private static String readAnswer(InputStream in) throws Exception {
        StringBuilder text = new StringBuilder();
        byte[] bytes = new byte[4_096];
        while (text.indexOf("}") < 0) {
            int count = in.read(bytes);
            if (count < 0) {
                break;
            }
            text.append(new String(bytes, 0, count, StandardCharsets.UTF_8));
        }
        return text.toString();
    }

    /** Somebody who may not call a module learns nothing of its routes: neither which there are nor which methods they take. */
    @ParameterizedTest
    @CsvSource({
        "GET,     /api/tolls/v1/nowhere",
        "GET,     /api/tolls/v1/vessels",
        "DELETE,  /api/tolls/v1/vessels/MW-10000/locks/3/toll",
        "OPTIONS, /api/tolls/v1/vessels/MW-10000/locks/3/toll",
        "POST,    /api/tolls/v1/openapi.json"
    })
    void nothingOfAClosedModuleIsToldToStrangers(String method, String path) throws Exception {
        HttpResponse<String> stranger = DEMO.running().send(method, path, "");
        assertThat(document(stranger, 401).path("detail").asString())
                .startsWith("The call needs a credential; ask the module's owner for a key");
        assertThat(stranger.headers().firstValue("Allow")).isEmpty();
        HttpResponse<String> known = DEMO.running()
                .send(
                        method,
                        path,
                        "",
                        "Authorization",
                        "Bearer " + DEMO.running().token());
        assertThat(known.statusCode()).isIn(204, 404, 405);
    }

    @Test
    void aClosedModuleAnswersItsAdministratorOnly() throws Exception {
        String path = "/api/tolls/v1/vessels/MW-10000/locks/3/toll";
        HttpResponse<String> closed = DEMO.running().get(path);
        document(closed, 401);
        assertThat(closed.headers().firstValue("WWW-Authenticate")).hasValue("Bearer realm=\"Tidy Bridge\"");
        document(DEMO.running().get("/api/tolls/v1/openapi.json"), 401);
        assertThat(DEMO.running().desk(path).statusCode()).isEqualTo(200);
        HttpResponse<String> wrong =
                RunningService.send(DEMO.running().request(path).header("Authorization", "Bearer nonsense"));
        document(wrong, 401);
    }
}
