package tidybridge.core.definition;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import org.junit.jupiter.api.Test;

class ModuleEditTest {

    private static final String TEXT = """
            module: m # a remark
            routes:
              /a:
                get:
                  sql: a.sql   # another

              /b:
                get:
                  parameters:
                    x:
                      in: query
                      about: >
                        a long
                        text
                    y: { in: header, name: X-Y }
                  sql: b.sql
              /c:
                get: { sql: c.sql }
              /d:
                get:
                  parameters: { x: { in: query } }
            """;

    private static Optional<String> added(String text, String operation, String name, String definition) {
        ModuleEdit edit = new ModuleEdit(text);
        return edit.add(operation, name, definition) ? Optional.of(edit.text()) : Optional.empty();
    }

    private static Optional<String> typed(String operation, String name, String definition) {
        ModuleEdit edit = new ModuleEdit(TEXT);
        return edit.type(operation, name, definition) ? Optional.of(edit.text()) : Optional.empty();
    }

    @Test
    void whatStandsInBracesStaysThere() {
        assertThat(added(TEXT, "GET /c", "x", "{ in: query, type: date }"))
                .contains(
                        TEXT.replace("{ sql: c.sql }", "{ sql: c.sql, parameters: { x: { in: query, type: date } } }"));
        assertThat(added(TEXT, "GET /d", "y", "{ in: query, type: date }"))
                .contains(TEXT.replace("{ x: { in: query } }", "{ x: { in: query }, y: { in: query, type: date } }"));
        String empty = "routes: { /a: { get: { about: 'it''s } here', parameters: {}, sql: a.sql } } }";
        assertThat(added(empty, "GET /a", "x", "{ in: query }"))
                .contains(
                        "routes: { /a: { get: { about: 'it''s } here', parameters: { x: { in: query } }, sql: a.sql } } }");
    }

    @Test
    void manyAreWrittenAtOnceInTheirOrder() {
        ModuleEdit edit = new ModuleEdit(TEXT);
        assertThat(edit.add("GET /a", "one", "{ in: query }")).isTrue();
        assertThat(edit.add("GET /b", "z", "{ in: query }")).isTrue();
        assertThat(edit.type("GET /b", "y", "type: string")).isTrue();
        assertThat(edit.add("GET /a", "two", "{ in: query }")).isTrue();
        assertThat(edit.add("GET /d", "y", "{ in: query }")).isTrue();
        assertThat(edit.type("GET /d", "x", "type: string")).isTrue();
        assertThat(edit.add("GET /d", "z", "{ in: query }")).isTrue();
        assertThat(edit.text())
                .isEqualTo(TEXT.replace(
                                "      sql: a.sql   # another\n",
                                "      sql: a.sql   # another\n      parameters:\n        one: { in: query }\n        two: { in: query }\n")
                        .replace(
                                "        y: { in: header, name: X-Y }\n",
                                "        y: { in: header, type: string, name: X-Y }\n        z: { in: query }\n")
                        .replace(
                                "{ x: { in: query } }",
                                "{ x: { in: query, type: string }, y: { in: query }, z: { in: query } }"));
    }

    @Test
    void anEmptyHeadingIsFilled() {
        String text = "routes:\n  /a:\n    get:\n      parameters:\n      sql: a.sql\n";
        assertThat(added(text, "GET /a", "x", "{ in: query }"))
                .contains("routes:\n  /a:\n    get:\n      parameters:\n        x: { in: query }\n      sql: a.sql\n");
    }

    @Test
    void aFirstParameterBringsItsHeading() {
        assertThat(added(TEXT, "GET /a", "least", "{ in: query, type: number }"))
                .contains(TEXT.replace("      sql: a.sql   # another\n", """
                              sql: a.sql   # another
                              parameters:
                                least: { in: query, type: number }
                        """.indent(0)));
    }

    @Test
    void anotherStandsBelowTheLast() {
        assertThat(added(TEXT, "GET /b", "z", "{ in: query, type: date }"))
                .contains(TEXT.replace(
                        "        y: { in: header, name: X-Y }\n",
                        "        y: { in: header, name: X-Y }\n        z: { in: query, type: date }\n"));
    }

    @Test
    void aTypeStandsBesideWhereItComesFrom() {
        assertThat(typed("GET /b", "y", "type: string, maxLength: 8"))
                .contains(TEXT.replace("{ in: header, name", "{ in: header, type: string, maxLength: 8, name"));
        assertThat(typed("GET /b", "x", "type: array, items: { type: string, enum: [a, b] }"))
                .contains(
                        TEXT.replace(
                                "          in: query\n          about",
                                "          in: query\n          type: array\n          items: { type: string, enum: [a, b] }\n          about"));
    }

    @Test
    void whatHasNoPlaceOfItsOwnIsLeftToItsWriter() {
        assertThat(added(TEXT, "GET /e", "x", "{ in: query, type: date }")).isEmpty();
        assertThat(added("routes: [", "GET /a", "x", "{ in: query, type: date }"))
                .isEmpty();
        assertThat(typed("GET /b", "unheard", "type: date")).isEmpty();
    }
}
