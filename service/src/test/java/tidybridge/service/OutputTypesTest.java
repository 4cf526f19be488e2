package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** What a procedure hands back is answered as a query of the same columns would be, type by type. */
class OutputTypesTest {

    /** Types and a value of each. */
    private static final String[][] TYPES = {
        {"tinyint(1)", "1"},
        {"smallint", "-32000"},
        {"mediumint", "8000000"},
        {"int unsigned", "4000000000"},
        {"bigint", "-9223372036854775808"},
        {"bigint unsigned", "18446744073709551615"},
        {"decimal(20,6)", "12345678901234.500000"},
        {"float", "1.5"},
        {"double", "-2.25e100"},
        {"bit(1)", "b'1'"},
        {"bit(10)", "b'1010101010'"},
        {"char(5)", "'ab'"},
        {"varchar(20)", "'Käse \"1\"'"},
        {"text", "'line\\nline'"},
        {"enum('up','down')", "'down'"},
        {"date", "'2031-05-01'"},
        {"time", "'-12:30:00'"},
        {"datetime", "'2031-05-01 12:30:00'"},
        {"datetime(3)", "'2031-05-01 12:30:00.125'"},
        {"timestamp", "'2031-05-01 12:30:00'"},
        {"year", "2031"},
        {"json", "'{\"a\": [1, null]}'"},
        {"binary(3)", "x'00ff10'"},
        {"varbinary(10)", "x'0102'"},
        {"blob", "'bytes'"},
        {"uuid", "'1b4e28ba-2fa1-4d2e-883f-0016d3cca427'"},
        {"point", "point(1.5, 2)"},
        {"varchar(5)", "null"},
        {"int", "null"},
        {"datetime", "null"}
    };

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        List<String> columns = new ArrayList<>();
        List<String> values = new ArrayList<>();
        List<String> outs = new ArrayList<>();
        List<String> names = new ArrayList<>();
        List<String> binds = new ArrayList<>();
        List<String> targets = new ArrayList<>();
        for (int i = 0; i < TYPES.length; i++) {
            String name = "c" + i;
            names.add(name);
            columns.add(name + " " + TYPES[i][0] + " null");
            values.add(TYPES[i][1]);
            outs.add("out o" + i + " " + TYPES[i][0]);
            targets.add("o" + i);
            binds.add(":" + name);
        }
        TestDatabase.execute(
                "waterways",
                "set time_zone = '+00:00'",
                "create or replace table every_type (" + String.join(", ", columns) + ")",
                "insert into every_type values (" + String.join(", ", values) + ")",
                "create or replace procedure every_output(" + String.join(", ", outs)
                        + ", inout twice decimal(10,2), inout told varchar(40))"
                        + " begin select " + String.join(", ", names) + " into " + String.join(", ", targets)
                        + " from every_type; set twice = 2 * twice; set told = concat(told, ', she said'); end");
        service = SharedService.get();
        service.post("/desk/sources/waterways/refresh", Map.of());
        HttpResponse<String> published = service.publish(
                """
                module: outputs
                version: 1.0.0
                title: Outputs
                source: waterways
                public: true
                routes:
                  /read:
                    get: { about: The columns, sql: read.sql, answer: row }
                  /called:
                    post:
                      about: The outputs
                      sql: call.sql
                      answer: row
                      parameters:
                        twice: { in: body, type: number, required: true, example: 1 }
                        told: { in: body, type: string, required: true, example: a }
                """,
                Map.of(
                        "read.sql", "select " + String.join(", ", names) + " from every_type",
                        "call.sql", "call every_output(" + String.join(", ", binds) + ", :twice, :told)"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    @AfterAll
    static void stop() throws Exception {
        TestDatabase.execute("waterways", "drop procedure every_output", "drop table every_type");
    }

    @Test
    void everyOutputIsAnsweredAsItsColumn() throws Exception {
        JsonNode read = service.json("/api/outputs/v1/read");
        HttpResponse<String> called = RunningService.send(service.request("/api/outputs/v1/called")
                .header("Content-Type", "application/json")
                .POST(BodyPublishers.ofString("{\"twice\":1.25,\"told\":\"Good\"}")));
        assertThat(called.statusCode()).as(called.body()).isEqualTo(200);
        JsonNode outputs = RunningService.json(called);
        for (int i = 0; i < TYPES.length; i++) {
            if (TYPES[i][0].equals("json")) {
                // as an argument it is nothing but a text to the server
                assertThat(outputs.path("c" + i).asString()).isEqualTo("{\"a\": [1, null]}");
            } else {
                assertThat(outputs.path("c" + i)).as(TYPES[i][0]).isEqualTo(read.path("c" + i));
            }
        }
        assertThat(outputs.path("twice").asDecimal()).isEqualByComparingTo("2.5");
        assertThat(outputs.path("told").asString()).isEqualTo("Good, she said");
    }
}
