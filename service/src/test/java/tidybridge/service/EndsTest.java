package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NodeList;
import tools.jackson.databind.JsonNode;

/** Ends are announced, come when they were announced for, and are told to whoever calls after them. */
class EndsTest {

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.apart("tidy_records_ends");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static final Map<String, String> STATEMENTS = Map.of(
            "stays.sql", "select id, berth_no from berth",
            "stay.sql", "select id, berth_no from berth where id = :stayId");

    private static String yaml(String name, String version, String ofModule, String ofRow) {
        return """
                module: %s
                version: %s
                title: Stays
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                %s
                routes:
                  /stays:
                    get: { about: Stays, sql: stays.sql, answer: rows, order: [id] }
                  /stays/{stayId}:
                    get:
                      about: A stay
                      sql: stay.sql
                      answer: row
                      %s
                      parameters: { stayId: { in: path, type: integer, example: 1 } }
                """.formatted(name, version, ofModule, ofRow);
    }

    private static void publish(String yaml) throws Exception {
        HttpResponse<String> published = service.publish(yaml, STATEMENTS);
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    private static List<String> all(HttpResponse<String> response, String field) {
        return response.headers().allValues(field);
    }

    @Test
    void anOperationSaysWhenItEndsAndWhatTakesItsPlace() throws Exception {
        publish(yaml(
                "lasts",
                "1.0.0",
                "",
                "deprecated: { since: 2030-01-01, ends: 2031-12-31, successor: 'lasts/v2/stays/{stayId}' }"));
        HttpResponse<String> row = service.get("/api/lasts/v1/stays/3");
        assertThat(row.statusCode()).isEqualTo(200);
        assertThat(all(row, "Deprecation"))
                .containsExactly("@" + Instant.parse("2030-01-01T00:00:00Z").getEpochSecond());
        assertThat(all(row, "Sunset")).containsExactly("Wed, 31 Dec 2031 00:00:00 GMT");
        assertThat(all(row, "Link"))
                .containsExactly(
                        "</api/lasts/changes>; rel=\"deprecation\"; type=\"text/html\"",
                        "</api/lasts/v2/stays/3>; rel=\"successor-version\"");
        HttpResponse<String> others = service.get("/api/lasts/v1/stays?limit=1");
        assertThat(all(others, "Deprecation")).isEmpty();
        assertThat(all(others, "Link")).hasSize(1).allMatch(link -> link.endsWith("rel=\"next\""));
        JsonNode reference = service.json("/api/lasts/v1/openapi.json").at("/paths/~1stays~1{stayId}/get");
        assertThat(reference.path("deprecated").asBoolean()).isTrue();
        assertThat(reference.path("description").asString())
                .isEqualTo(
                        "A stay. Deprecated since 2030-01-01, gone on 2031-12-31; use lasts/v2/stays/{stayId} in its place.");
        assertThat(reference.at("/responses/410").isMissingNode()).isFalse();
    }

    /** A module's end is that of all it does, and comes beside the link to the next page. */
    @Test
    void aModuleSaysThatItEnds() throws Exception {
        publish(yaml("closes", "2.0.0", "", ""));
        publish(yaml("closes", "1.0.0", "deprecated: { ends: 2031-12-31, successor: closes/v2 }", ""));
        HttpResponse<String> page = service.get("/api/closes/v1/stays?limit=1");
        assertThat(page.statusCode()).isEqualTo(200);
        // what says no day counts from its publishing
        assertThat(Long.parseLong(all(page, "Deprecation").getFirst().substring(1)))
                .isBetween(Instant.now().getEpochSecond() - 60, Instant.now().getEpochSecond());
        assertThat(all(page, "Link"))
                .hasSize(3)
                .anyMatch(link -> link.endsWith("rel=\"next\""))
                .contains("</api/closes/v2/openapi.json>; rel=\"successor-version\"");
        assertThat(RunningService.json(service.desk("/desk/modules/closes/v1"))
                        .at("/deprecated/ends")
                        .asString())
                .isEqualTo("2031-12-31");
        assertThat(all(service.get("/api/closes/v2/stays?limit=1"), "Sunset")).isEmpty();
    }

    @Test
    void afterItsEndItIsGone() throws Exception {
        publish(yaml("past", "1.0.0", "", "deprecated: { since: 2020-01-01, ends: 2020-12-31, successor: /stays }"));
        HttpResponse<String> row = service.get("/api/past/v1/stays/3");
        assertThat(row.statusCode()).isEqualTo(410);
        assertThat(RunningService.json(row).path("code").asString()).isEqualTo("gone");
        assertThat(RunningService.json(row).path("detail").asString())
                .isEqualTo("GET /stays/{stayId} of past/v1 ended on 2020-12-31. Use /api/past/v1/stays in its place.");
        assertThat(all(row, "Link")).contains("</api/past/v1/stays>; rel=\"successor-version\"");
        assertThat(service.get("/api/past/v1/stays").statusCode()).isEqualTo(200);
        publish(yaml("pastwhole", "1.0.0", "deprecated: 2020-12-31", ""));
        assertThat(service.get("/api/pastwhole/v1/stays").statusCode()).isEqualTo(410);
        assertThat(service.get("/api/pastwhole/v1/openapi.json").statusCode()).isEqualTo(200);
    }

    @Test
    void whatIsRetiredSaysSoToThoseWhoMightHaveCalledIt() throws Exception {
        publish(yaml("retires", "1.0.0", "", ""));
        publish(yaml("retires", "2.0.0", "", ""));
        String closed = yaml("hidden", "1.0.0", "", "")
                .replace("public: true", "needs: hidden.read")
                .replace("accept: { open-to-everybody: a test }", "");
        publish(closed);
        for (String name : List.of("retires", "hidden")) {
            assertThat(service.send(
                                    "DELETE",
                                    "/desk/modules/" + name + "/v1/release?version=1.0.0&reason=the%20quay%20is%20gone",
                                    "",
                                    service.signed())
                            .statusCode())
                    .isEqualTo(200);
        }
        HttpResponse<String> gone = service.get("/api/retires/v1/stays");
        assertThat(gone.statusCode()).isEqualTo(410);
        assertThat(RunningService.json(gone).path("detail").asString())
                .startsWith("The module retires/v1 was retired on 2")
                .endsWith(": the quay is gone. Use /api/retires/v2 in its place.");
        assertThat(all(gone, "Link")).containsExactly("</api/retires/v2/openapi.json>; rel=\"successor-version\"");
        assertThat(service.get("/api/retires/v2/stays").statusCode()).isEqualTo(200);
        assertThat(service.get("/api/hidden/v1/stays").statusCode()).isEqualTo(401);
        HttpResponse<String> told = service.send("GET", "/api/hidden/v1/stays", "", service.signed());
        assertThat(told.statusCode()).isEqualTo(410);
        // and after the next start too
        try (RunningService other = service.beside()) {
            assertThat(other.get("/api/retires/v1/stays").statusCode()).isEqualTo(410);
        }
    }

    @Test
    void whatChangedIsToldAsAPageAndAsAFeed() throws Exception {
        publish(yaml("tells", "1.0.0", "", ""));
        service.publishBreaking(
                yaml("tells", "1.1.0", "", ""),
                Map.of("stays.sql", "select id from berth", "stay.sql", STATEMENTS.get("stay.sql")),
                "numbers <b>were</b> wrong & late \u0001");
        HttpResponse<String> page = service.get("/api/tells/changes");
        assertThat(page.statusCode()).isEqualTo(200);
        assertThat(all(page, "Content-Type")).containsExactly("text/html;charset=utf-8");
        assertThat(page.body())
                .contains(
                        "tells/v1: 1.1.0 was published",
                        "numbers &lt;b>were&lt;/b> wrong &amp; late \uFFFD",
                        "Breaks callers of 1.0.0",
                        "<code>GET /stays</code> The field 'berth_no' is gone.")
                .doesNotContain("tests", "<script", "stays.sql");
        Document feed = DocumentBuilderFactory.newDefaultNSInstance()
                .newDocumentBuilder()
                .parse(new ByteArrayInputStream(
                        service.get("/api/tells/changes.atom").body().getBytes(StandardCharsets.UTF_8)));
        NodeList entries = feed.getElementsByTagNameNS("http://www.w3.org/2005/Atom", "entry");
        assertThat(entries.getLength()).isEqualTo(2);
        Element newest = (Element) entries.item(0);
        assertThat(newest.getElementsByTagName("title").item(0).getTextContent())
                .isEqualTo("tells/v1: 1.1.0 was published");
        assertThat(newest.getElementsByTagName("content").item(0).getTextContent())
                .contains("The field 'berth_no' is gone.");
        for (String needed : List.of("id", "updated", "title")) {
            assertThat(newest.getElementsByTagName(needed).getLength()).isEqualTo(1);
        }
        String tag = page.headers().firstValue("ETag").orElseThrow();
        assertThat(service.send("GET", "/api/tells/changes", "", "If-None-Match", tag)
                        .statusCode())
                .isEqualTo(304);
        service.send(
                "PUT",
                "/desk/modules/tells/v1/release",
                "{\"version\":\"1.0.0\",\"reason\":\"numbers are right\"}",
                service.signed());
        assertThat(service.get("/api/tells/changes").body())
                .contains("tells/v1: 1.0.0 is live again", "Why: numbers are right", "Safe for callers of 1.1.0");
        publish(yaml("tells", "1.2.0", "", ""));
        assertThat(service.get("/api/tells/changes").body()).contains("tells/v1: 1.2.0 was published");
        assertThat(service.get("/api/nobody/changes").statusCode()).isEqualTo(404);
    }
}
