package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/**
 * The declared type of a parameter decides what an expression with it answers: as the same expression with the value written into it. Exact
 * stays exact, text stays text, and the reference says the same.
 */
class BoundTypesTest {

    /**
     * An expression over a row of the table.
     *
     * @param type the parameter's
     * @param value as it is sent in JSON
     * @param literal the same value as SQL writes it
     * @param json the type of the answer in the reference
     */
    private record Expression(String sql, String type, String value, String literal, String json) {
        @Override
        public String toString() {
            return sql + " of " + type;
        }
    }

    private static final List<Expression> EXPRESSIONS = List.of(
            new Expression("price * :v", "integer", "3", "3", "number"),
            new Expression("price * :v", "number", "0.1", "0.1", "number"),
            new Expression("id + :v", "integer", "4", "4", "integer"),
            new Expression("id * :v", "integer", "9007199254740993", "9007199254740993", "integer"),
            new Expression("id + :v", "number", "4.5", "4.5", "number"),
            new Expression(":v / 3", "integer", "10", "10", "number"),
            new Expression(":v", "integer", "7", "7", "integer"),
            new Expression(":v", "number", "0.10", "0.10", "number"),
            new Expression("-:v", "number", "0.10", "0.10", "number"),
            new Expression("round(:v, 1)", "number", "2.25", "2.25", "number"),
            new Expression("coalesce(:v, price)", "number", "12345678901234567.25", "12345678901234567.25", "number"),
            new Expression("greatest(price, :v)", "integer", "3", "3", "number"),
            new Expression("if(:v, price, id)", "boolean", "true", "true", "number"),
            new Expression("upper(:v)", "string", "\"zürich\"", "'zürich'", "string"),
            new Expression("concat(:v, label)", "string", "\"é\"", "'é'", "string"),
            new Expression("concat(:v, id)", "integer", "12", "12", "string"),
            new Expression(":v", "string", "\"10\"", "'10'", "string"),
            new Expression("left(:v, 2)", "string", "\"🚤🚤🚤\"", "'🚤🚤🚤'", "string"),
            new Expression("length(:v)", "string", "\"é\"", "'é'", "integer"),
            new Expression(":v + interval 1 day", "date", "\"2031-05-01\"", "date'2031-05-01'", "string"),
            new Expression(
                    "date(:v)",
                    "date-time-local",
                    "\"2031-05-01T10:00:00\"",
                    "timestamp'2031-05-01 10:00:00'",
                    "string"),
            new Expression("datediff(:v, '2031-01-01')", "date", "\"2031-05-01\"", "date'2031-05-01'", "integer"),
            new Expression("case when id = 1 then :v else price end", "integer", "5", "5", "number"),
            new Expression("(select max(price) * :v from bound)", "integer", "2", "2", "number"),
            new Expression("sum(price) over () * :v", "number", "1.5", "1.5", "number"),
            new Expression(
                    "(select x.n from (select b.price + :v as n from bound as b) as x)",
                    "number",
                    "0.01",
                    "0.01",
                    "number"));

    private static RunningService service;

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        TestDatabase.execute(
                "waterways",
                "create or replace table bound (id bigint not null primary key, price decimal(30,10) not null, label varchar(9) not null)",
                "insert into bound values (1, 12345678901234567890.0123456789, 'Reach')");
        service.post("/desk/sources/waterways/refresh", Map.of());
        StringBuilder yaml = new StringBuilder("""
                module: bound
                version: 1.0.0
                title: Bound
                source: waterways
                public: true
                routes:
                """);
        Map<String, String> sql = new HashMap<>();
        for (int i = 0; i < EXPRESSIONS.size(); i++) {
            sql.put(i + ".sql", "select " + EXPRESSIONS.get(i).sql + " as it from bound where id = 1");
            sql.put(
                    "s" + i + ".sql",
                    "select " + EXPRESSIONS.get(i).sql.replace(":v", ":first.v") + " as it from bound where id = 1");
            sql.put("f" + i + ".sql", "select " + EXPRESSIONS.get(i).literal + " as v");
            yaml.append("""
                      /e%1$d:
                        post:
                          about: Answers an expression
                          sql: %1$d.sql
                          answer: row
                          parameters:
                            v: { in: body, type: %2$s, required: true }
                      /s%1$d:
                        get:
                          about: The same over a value of an earlier step
                          answer: row
                          steps:
                            first: { sql: f%1$d.sql }
                            second: { sql: s%1$d.sql }
                    """.formatted(i, EXPRESSIONS.get(i).type));
        }
        var response = service.publish(yaml.toString(), sql);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table bound");
    }

    static Stream<Integer> expressions() {
        return IntStream.range(0, EXPRESSIONS.size()).boxed();
    }

    @ParameterizedTest
    @MethodSource("expressions")
    void anExpressionIsAnsweredAsIfTheValueStoodInIt(int index) throws Exception {
        Expression expression = EXPRESSIONS.get(index);
        String whole = TestDatabase.column(
                        "select " + expression.sql.replace(":v", expression.literal) + " from bound where id = 1")
                .getFirst();
        String answered = answered(index);
        boolean number = !expression.json.equals("string");
        assertThat(answered).as("%s", expression).isEqualTo("{\"it\":" + (number ? whole : "\"" + whole + "\"") + "}");
        JsonNode schema = service.json("/api/bound/v1/openapi.json")
                .at("/components/schemas/E" + index + "Row/properties/it/type");
        assertThat(schema.isArray() ? schema.get(0).asString() : schema.asString(""))
                .as("%s", expression)
                .isEqualTo(expression.json);
    }

    private static String answered(int index) throws Exception {
        String body = "{\"v\":" + EXPRESSIONS.get(index).value + "}";
        return service.send("POST", "/api/bound/v1/e" + index, body).body();
    }

    @ParameterizedTest
    @MethodSource("expressions")
    void aValueOfAnEarlierStepKeepsItsTypeToo(int index) throws Exception {
        Expression expression = EXPRESSIONS.get(index);
        boolean isText = expression.literal.contains("'");
        if (!isText) {
            String direct = answered(index);
            assertThat(service.get("/api/bound/v1/s" + index).body())
                    .as("%s", expression)
                    .isEqualTo(direct);
        }
    }
}
