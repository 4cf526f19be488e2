package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** Bodies in, and answers of every kind out, over HTTP. */
class AnswersTest {

    @RegisterExtension
    static final Situation ANSWERS = new Situation("answers");

    private static HttpResponse<String> post(String path, String type, String body) throws Exception {
        return RunningService.send(ANSWERS.service()
                .request("/api/answers/v1" + path)
                .header("Content-Type", type)
                .POST(BodyPublishers.ofString(body)));
    }

    private static HttpResponse<String> json(String path, String body) throws Exception {
        return post(path, "application/json", body);
    }

    @Test
    void aFileHasItsTypeAndName() throws Exception {
        HttpResponse<String> file = ANSWERS.service().get("/api/answers/v1/papers/1");
        assertThat(file.body()).isEqualTo("hello");
        assertThat(file.headers().firstValue("Content-Type").orElseThrow()).startsWith("text/plain");
        assertThat(file.headers().firstValue("Content-Disposition"))
                .contains("inline; filename=\"K_se _1_.txt\"; filename*=UTF-8''K%C3%A4se%20%221%22.txt");
        assertThat(file.headers().firstValue("X-Content-Type-Options")).contains("nosniff");
    }

    @Test
    void whatABrowserCouldRunIsNeverShownInPlace() throws Exception {
        HttpResponse<String> page = ANSWERS.service().get("/api/answers/v1/papers/2");
        assertThat(page.headers().firstValue("Content-Disposition"))
                .contains("attachment; filename=\"x.html\"; filename*=UTF-8''x.html");
        HttpResponse<String> odd = ANSWERS.service().get("/api/answers/v1/papers/3");
        assertThat(odd.headers().firstValue("Content-Type")).contains("application/octet-stream");
        assertThat(odd.headers().firstValue("Content-Disposition")).contains("attachment");
    }

    @Test
    void aFileIsOfferedByItsMediaTypeWhateverItsCharset() throws Exception {
        assertThat(RunningService.send(ANSWERS.service()
                                .request("/api/answers/v1/papers/1/text")
                                .header("Accept", "text/plain"))
                        .body())
                .isEqualTo("hello");
        assertThat(RunningService.send(ANSWERS.service()
                                .request("/api/answers/v1/papers/1/text")
                                .header("Accept", "image/png"))
                        .statusCode())
                .isEqualTo(406);
    }

    @Test
    void noFileAndNoContentAreNotFound() throws Exception {
        assertThat(ANSWERS.service().get("/api/answers/v1/papers/4").statusCode())
                .isEqualTo(404);
        assertThat(ANSWERS.service().get("/api/answers/v1/papers/9").statusCode())
                .isEqualTo(404);
        assertThat(ANSWERS.service().get("/api/answers/v1/papers/9/exists").statusCode())
                .isEqualTo(404);
    }

    @Test
    void nothingIsAnsweredWithoutContentAndTellsItsEnd() throws Exception {
        HttpResponse<String> response = ANSWERS.service().get("/api/answers/v1/papers/1/exists");
        assertThat(response.statusCode()).isEqualTo(204);
        assertThat(response.body()).isEmpty();
        assertThat(response.headers().firstValue("Sunset")).contains("Wed, 31 Dec 2031 00:00:00 GMT");
    }

    @Test
    void fieldsAreChosenOrderedRenamedMaskedAndWrittenAsText() throws Exception {
        assertThat(ANSWERS.service().get("/api/answers/v1/papers?limit=1").body())
                .startsWith(
                        "{\"data\":[{\"owner\":{\"mail\":\"m****@marrowby.example\"},\"id\":1,\"sheets\":\"9007199254740993\"}]");
        HttpResponse<String> known = ANSWERS.service().desk("/api/answers/v1/papers?limit=1");
        assertThat(known.body()).startsWith("{\"data\":[{\"owner\":{\"mail\":\"mara@marrowby.example\"}");
        JsonNode row = ANSWERS.service().json("/api/answers/v1/openapi.json").at("/components/schemas/PapersRow");
        assertThat(row.at("/properties/owner/properties/mail/description").asString())
                .isEqualTo("Masked for callers without the privilege answers.contacts.");
        assertThat(row.at("/properties/sheets/type").asString()).isEqualTo("string");
    }

    @Test
    void aListOfObjectsIsReadAsTheJsonItIs() throws Exception {
        String body = """
                {"lines":[{"sku":"a","qty":1.25},{"sku":"b \\"2\\"","qty":2,"of":{"note":"é"}}],"days":["2031-05-01T12:00:00","2031-04-01T23:59:59"]}""";
        assertThat(ANSWERS.service().send("POST", "/api/answers/v1/lines", body).body())
                .isEqualTo("{\"many\":2,\"pieces\":3.25,\"lastSku\":\"b \\\"2\\\"\",\"note\":\"é\","
                        + "\"lastDay\":\"2031-05-01T12:00:00\"}");
    }

    @Test
    void aSearchInABodyHasPages() throws Exception {
        String body = "{\"owners\":[\"odo@marrowby.example\",\"mara@marrowby.example\"],\"sheets\":{\"least\":2}}";
        JsonNode first = RunningService.json(json("/search", body));
        assertThat(first.at("/data/0/fileName").asString()).isEqualTo("Käse \"1\".txt");
        String next = first.at("/page/next").asString();
        JsonNode second = RunningService.json(RunningService.send(ANSWERS.service()
                .request(next)
                .header("Content-Type", "application/json; charset=UTF-8")
                .POST(BodyPublishers.ofString(body))));
        assertThat(second.at("/data/0/id").asInt()).isEqualTo(2);
        assertThat(RunningService.json(json("/search", "{\"owners\":[],\"sheets\":{\"least\":0}}"))
                        .path("data")
                        .size())
                .as("an empty list finds nothing")
                .isZero();
        assertThat(RunningService.json(json("/search?limit=5", "{\"sheets\":{\"least\":0}}"))
                        .path("data")
                        .size())
                .as("no list finds all")
                .isEqualTo(4);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
                    application/json                | {"sheets":{"least":"x"}}    | 400 | "pointer":"/sheets/least"
                    application/json                | {"sheets":{}}               | 400 | '/sheets/least' is required
                    application/json                | {"sheets":{"least":1}       | 400 | is not valid JSON
                    application/json                | {"sheet":{"least":1}}       | 400 | '/sheet' is not known here
                    text/plain                      | {"sheets":{"least":1}}      | 415 | This call reads application/json in UTF-8
                    application/json;charset=utf-16 | {"sheets":{"least":1}}      | 415 | This call reads application/json in UTF-8
                    application/merge-patch+json    | {"sheets":{"least":1}}      | 200 | "data"
                    """)
    void bodiesAreHeldToWhatTheCallReads(String type, String body, int status, String part) throws Exception {
        HttpResponse<String> response = post("/search", type, body);
        assertThat(response.statusCode()).isEqualTo(status);
        assertThat(response.body()).contains(part);
    }

    @Test
    void aBodyTooLargeOrUnwantedIsRefused() throws Exception {
        assertThat(json("/search", "{\"x\":\"" + "a".repeat(5 * 1024 * 1024) + "\"}")
                        .statusCode())
                .isEqualTo(413);
        HttpResponse<String> missing = RunningService.send(
                ANSWERS.service().request("/api/answers/v1/search").POST(BodyPublishers.noBody()));
        assertThat(missing.body()).contains("'/sheets/least' is required");
        HttpResponse<String> wrong = json("/papers/1", "{}");
        assertThat(wrong.statusCode()).isEqualTo(405);
        assertThat(wrong.headers().firstValue("Allow")).contains("GET, HEAD, OPTIONS");
        assertThat(ANSWERS.service().get("/api/answers/v1/search").headers().firstValue("Allow"))
                .contains("POST, OPTIONS");
    }

    @Test
    void aFormIsReadLikeAQuery() throws Exception {
        assertThat(post("/form", "application/x-www-form-urlencoded", "ids=1&ids=2&ids=3")
                        .body())
                .isEqualTo("{\"value\":3}");
        assertThat(post("/form", "application/x-www-form-urlencoded", "id=1").body())
                .contains("'id' is not known here. Did you mean 'ids'?");
    }

    @Test
    void theCallerAndTheRequestAreBound() throws Exception {
        JsonNode unknown = ANSWERS.service().json("/api/answers/v1/who");
        assertThat(unknown.path("who").isNull()).isTrue();
        assertThat(unknown.path("address").asString()).isEqualTo("127.0.0.1");
        assertThat(unknown.path("request").asString()).matches("[0-9a-f]{32}");
        JsonNode known = RunningService.json(RunningService.send(ANSWERS.service()
                .request("/api/answers/v1/who")
                .header("Authorization", "Bearer " + ANSWERS.service().token())
                .header("Cookie", "session=abc")
                .header("traceparent", "00-0af7651916cd43dd8448eb211c80319c-b7ad6b7169203331-01")));
        assertThat(known.path("who").asString()).isEqualTo("administrator");
        assertThat(known.path("session").asString()).isEqualTo("abc");
        assertThat(known.path("request").asString()).isEqualTo("0af7651916cd43dd8448eb211c80319c");
    }

    @Test
    void aBodyOfRawBytesIsToldApart() throws Exception {
        HttpResponse<String> response = RunningService.send(ANSWERS.service()
                .request("/api/answers/v1/search")
                .header("Content-Type", "application/json")
                .POST(BodyPublishers.ofByteArray("{\"x\":\"é\"}".getBytes(StandardCharsets.ISO_8859_1))));
        assertThat(response.body()).contains("The body is not UTF-8 text.");
    }

    @Test
    void aRuleOfTheDataSpeaksForItself() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace function guarded(n int) returns int no sql begin if n > 3 then"
                        + " signal sqlstate '45000' set message_text = 'Only three at a time'; end if; return n; end");
        String yaml = """
                module: guarded
                version: 1.0.0
                title: Guarded
                source: waterways
                public: true
                routes:
                  /n/{n}:
                    get: { about: N, sql: n.sql, answer: value, parameters: { n: { in: path, type: integer, example: 1 } } }
                """;
        assertThat(ANSWERS.service()
                        .publish(yaml, Map.of("n.sql", "select guarded(:n) as n"))
                        .statusCode())
                .isEqualTo(200);
        for (int i = 0; i < 20; i++) {
            HttpResponse<String> refused = ANSWERS.service().get("/api/guarded/v1/n/4");
            assertThat(refused.statusCode()).isEqualTo(422);
            assertThat(RunningService.json(refused).path("detail").asString()).isEqualTo("Only three at a time");
            assertThat(RunningService.json(refused).path("type").asString()).isEqualTo("/problems/rule-broken");
        }
        assertThat(ANSWERS.service().get("/api/guarded/v1/n/3").body()).isEqualTo("{\"value\":3}");
        TestDatabase.execute("waterways", "drop function guarded");
    }

    @ParameterizedTest
    @CsvSource({";,406", "';;q=1, */*',200", "',,,',406", "application/json;q=0,406", "text/html,406"})
    void anOddAcceptFieldIsReadAsFarAsItGoes(String accept, int status) throws Exception {
        assertThat(RunningService.send(ANSWERS.service()
                                .request("/api/answers/v1/papers")
                                .header("Accept", accept))
                        .statusCode())
                .isEqualTo(status);
    }

    /** Whatever is sent: a right status, and a problem document that is one. */
    @Test
    void generatedRequestsNeverFail() throws Exception {
        String[] bodies = {
            "{",
            "}",
            "[",
            "]",
            "\"owners\"",
            ":",
            ",",
            "\"sheets\"",
            "{\"least\":",
            "1",
            "-0",
            "1e400",
            "null",
            "\"\\u0000\"",
            "\"\uD800\"",
            "true",
            " ",
            "{\"sheets\":{\"least\":1}}",
            "\u00e9"
        };
        String[] paths = {
            "/search",
            "/search?limit=2",
            "/search?after=x",
            "/form",
            "/papers/1",
            "/papers/%00",
            "/who?x=1",
            "/search?limit=99"
        };
        String[] types = {
            "application/json",
            "application/x-www-form-urlencoded",
            "text/plain",
            "application/json; charset=latin1",
            ";;",
            "*/*"
        };
        java.util.Random random = new java.util.Random(3);
        for (int i = 0; i < 1_500; i++) {
            StringBuilder body = new StringBuilder();
            for (int n = random.nextInt(7); n > 0; n--) {
                body.append(bodies[random.nextInt(bodies.length)]);
            }
            String path = paths[random.nextInt(paths.length)];
            String type = types[random.nextInt(3) == 0 ? random.nextInt(types.length) : random.nextInt(2)];
            HttpResponse<String> response = post(path, type, body.toString());
            String sent = path + " " + type + " " + body;
            assertThat(response.statusCode()).as(sent).isIn(200, 204, 400, 404, 405, 413, 415);
            if (response.statusCode() >= 400) {
                assertThat(response.headers().firstValue("Content-Type"))
                        .as(sent)
                        .contains("application/problem+json");
                assertThat(RunningService.json(response).path("status").asInt())
                        .as(sent)
                        .isEqualTo(response.statusCode());
            }
        }
    }
}
