package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.core.compile.PlanFixture.compile;
import static tidybridge.core.compile.PlanFixture.describing;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;

class PromiseCheckTest {

    private static final Field[] COLUMNS = {
        new Field("id", FieldType.INTEGER, false),
        new Field("rate", FieldType.DECIMAL, false),
        new Field("label", FieldType.STRING, true),
        new Field("day", FieldType.DATE, false),
        new Field("at", FieldType.LOCAL_DATE_TIME, false),
        new Field("more", FieldType.JSON, false),
        new Field("basin.name", FieldType.STRING, false),
        new Field("owner_email", FieldType.STRING, false)
    };

    private static PlanFixture.Result promising(String promise, String more) {
        return compile(
                """
                module: m
                version: 1.0.0
                title: M
                source: s
                public: false
                routes:
                  /r:
                    get:
                      about: R
                      sql: r.sql
                      answer: rows
                      order: [id]
                      promise: %s
                %s
                """.formatted(promise, more.indent(6)), Map.of("r.sql", "select id from t"), describing(COLUMNS));
    }

    private static List<String> promises(PlanFixture.Result result) {
        return result.codes().stream()
                .filter(code -> code.startsWith("promise"))
                .toList();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            id: integer                            |
            id: number                             |
            id: string                             | promise-unkept
            rate: number                           |
            label: string                          | promise-doubtful
            label: { type: string, nullable: true } |
            label: email                           | promise-doubtful
            day: date                              |
            day: string                            |
            at: date-time                          | promise-unkept
            at: date-time-local                    |
            more: object                           |
            more: array                            |
            basin.name: string                     |
            basin: object                          | promise-unkept
            basin.town: string                     | promise-unkept
            owner_email: email                     | promise-unkept
            owner_email: string                    |
            """)
    void eachFieldIsComparedAsCallersSeeIt(String field, String code) {
        PlanFixture.Result result = promising(
                "{ fields: { " + field + " } }", "fields: { owner_email: { mask: email }, rate: { about: R } }");
        assertThat(promises(result)).isEqualTo(code == null ? List.of() : List.of(code));
    }

    @ParameterizedTest
    @CsvSource({"200,", "201, promise-unkept", "404,", "418, promise-unkept", "503,"})
    void statusesAreThoseThatCanCome(String status, String code) {
        assertThat(promises(promising("{ statuses: [" + status + "] }", "")))
                .isEqualTo(code == null ? List.of() : List.of(code));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            { fields: { id: whole } }                | value-unfit
            { fields: { id: { nullable: true } } }   | key-missing
            { fields: [id] }                         | value-unfit
            { statuses: [700] }                      | value-unfit
            { field: { id: integer } }               | unknown-key
            """)
    void whatIsNoPromiseIsFound(String promise, String code) {
        assertThat(promising(promise, "").codes()).contains(code);
    }
}
