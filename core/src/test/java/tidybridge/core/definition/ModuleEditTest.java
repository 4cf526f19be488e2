package tidybridge.core.definition;

import static org.assertj.core.api.Assertions.assertThat;

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

    @Test
    void aFirstParameterBringsItsHeading() {
        assertThat(ModuleEdit.add(TEXT, "GET /a", "least", "{ in: query, type: number }"))
                .contains(TEXT.replace("      sql: a.sql   # another\n", """
                              sql: a.sql   # another
                              parameters:
                                least: { in: query, type: number }
                        """.indent(0)));
    }

    @Test
    void anotherStandsBelowTheLast() {
        assertThat(ModuleEdit.add(TEXT, "GET /b", "z", "{ in: query, type: date }"))
                .contains(TEXT.replace(
                        "        y: { in: header, name: X-Y }\n",
                        "        y: { in: header, name: X-Y }\n        z: { in: query, type: date }\n"));
    }

    @Test
    void aTypeStandsBesideWhereItComesFrom() {
        assertThat(ModuleEdit.type(TEXT, "GET /b", "y", "type: string, maxLength: 8"))
                .contains(TEXT.replace("{ in: header, name", "{ in: header, type: string, maxLength: 8, name"));
        assertThat(ModuleEdit.type(TEXT, "GET /b", "x", "type: array, items: { type: string, enum: [a, b] }"))
                .contains(
                        TEXT.replace(
                                "          in: query\n          about",
                                "          in: query\n          type: array\n          items: { type: string, enum: [a, b] }\n          about"));
    }

    @Test
    void whatHasNoPlaceOfItsOwnIsLeftToItsWriter() {
        assertThat(ModuleEdit.add(TEXT, "GET /c", "x", "{ in: query, type: date }"))
                .isEmpty();
        assertThat(ModuleEdit.add(TEXT, "GET /d", "y", "{ in: query, type: date }"))
                .isEmpty();
        assertThat(ModuleEdit.add(TEXT, "GET /e", "x", "{ in: query, type: date }"))
                .isEmpty();
        assertThat(ModuleEdit.add("routes: [", "GET /a", "x", "{ in: query, type: date }"))
                .isEmpty();
        assertThat(ModuleEdit.type(TEXT, "GET /b", "unheard", "type: date")).isEmpty();
    }
}
