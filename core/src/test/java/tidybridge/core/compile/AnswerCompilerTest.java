package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.core.compile.PlanFixture.compile;
import static tidybridge.core.compile.PlanFixture.describing;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.plan.FilePlan;

class AnswerCompilerTest {

    private static final String YAML = """
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
                  HERE: HERE
            """;

    private static final Field[] COLUMNS = {
        new Field("id", FieldType.INTEGER, false),
        new Field("berth_no", FieldType.STRING, false),
        new Field("basin.name", FieldType.STRING, true),
        new Field("basin.depth_m", FieldType.DECIMAL, true),
        new Field("owner_email", FieldType.STRING, true)
    };

    private static PlanFixture.Result with(String keys) {
        String yaml = YAML.replace("      HERE: HERE\n", keys.isEmpty() ? "" : keys.indent(6));
        return compile(yaml, Map.of("r.sql", "select id from t"), describing(COLUMNS));
    }

    private static List<String> names(String keys) {
        return with(keys).operation().fields().stream().map(ShapedField::name).toList();
    }

    @Test
    void columnsAreAnsweredAsTheStatementHasThem() {
        assertThat(names("")).containsExactly("id", "berth_no", "basin.name", "basin.depth_m", "owner_email");
        assertThat(with("").operation().fields().get(2).path()).containsExactly("basin", "name");
    }

    @Test
    void namesCanBeCamelCase() {
        assertThat(names("names: camel-case"))
                .containsExactly("id", "berthNo", "basin.name", "basin.depthM", "ownerEmail");
        assertThat(AnswerCompiler.camel("_private_no__x_")).isEqualTo("_privateNo_X_");
        assertThat(AnswerCompiler.camel("a_b.c_d")).isEqualTo("aB.cD");
    }

    @Test
    void fieldsCanBeHiddenChosenAndRenamed() {
        assertThat(names("fields: { berth_no: { hide: true }, owner_email: { name: owner.email } }"))
                .containsExactly("id", "basin.name", "basin.depth_m", "owner.email");
        assertThat(names("show: [berth_no, id]")).containsExactly("berth_no", "id");
    }

    @Test
    void rulesAreKept() {
        ShapedField mail =
                with("fields: { owner_email: { mask: email, unless: m.contacts, about: Whose, example: a@b.example } }")
                        .operation()
                        .fields()
                        .getLast();
        assertThat(mail.unless()).isEqualTo("m.contacts");
        assertThat(mail.about()).isEqualTo("Whose");
        ShapedField id =
                with("fields: { id: { as: text } }").operation().fields().getFirst();
        assertThat(id.asText()).isTrue();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    fields: { berth: { hide: true } }                 | field-unknown
                    show: [id, berth]                                 | field-unknown
                    fields: { berth_no: { name: id } }                | field-twice
                    fields: { berth_no: { name: basin } }             | field-clash
                    fields: { berth_no: { name: 'not a name' } }      | value-unfit
                    fields: { basin.depth_m: { mask: email } }        | mask-unfit
                    fields: { id: { mask: whole } }                   | mask-unfit
                    fields: { berth_no: { mask: blurred } }           | value-unfit
                    fields: { berth_no: { unless: m.see } }           | value-unfit
                    fields: { berth_no: { as: text } }                | text-unfit
                    fields: { berth_no: { as: json } }                | value-unfit
                    fields: { berth_no: { hidden: true } }            | unknown-key
                    file: { content: berth_no }                       | value-unfit
                    names: snake                                      | value-unfit
                    deprecated: true                                  | deprecated-undated
                    deprecated: soon                                  | value-unfit
                    page: { most: 20000 }                             | result-unbounded
                    accept: { select-stars: x }                       | acceptance-unfit
                    accept: { bind-undefined: x }                     | acceptance-unfit
                    accept: { select-star: x }                        | acceptance-idle
                    """)
    void rulesThatDoNotFitAreFound(String keys, String code) {
        assertThat(with(keys).codes()).contains(code);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    { content: photo, type: kind, name: file_name } | ''
                    { content: photo, type: image/png }            | ''
                    { content: photo }                             | ''
                    { content: size }                              | file-unfit
                    { content: foto }                              | field-unknown
                    { content: photo, type: mime }                 | field-unknown
                    { content: photo, type: 'image/' }             | value-unfit
                    { type: image/png }                            | key-missing
                    """)
    void aFileNamesItsColumns(String file, String code) {
        String yaml = YAML.replace("answer: rows", "answer: file")
                .replace("      order: [id]\n", "")
                .replace("      HERE: HERE\n", "      file: " + file + "\n");
        PlanFixture.Result result = compile(
                yaml,
                Map.of("r.sql", "select photo from t"),
                describing(
                        new Field("photo", FieldType.BINARY, true),
                        new Field("kind", FieldType.STRING, false),
                        new Field("file_name", FieldType.STRING, false),
                        new Field("size", FieldType.INTEGER, false)));
        assertThat(result.codes()).containsExactlyElementsOf(code.isEmpty() ? List.of() : List.of(code));
        if (code.isEmpty()) {
            assertThat(result.operation()).isInstanceOf(FilePlan.class);
        }
    }

    @ParameterizedTest
    @CsvSource({"value,answer-unfit", "row,answer-unfit", "nothing,''"})
    void anAnswerShowsSomething(String kind, String code) {
        String yaml = YAML.replace("answer: rows", "answer: " + kind)
                .replace("      order: [id]\n", "")
                .replace("      HERE: HERE\n", "      fields: { id: { hide: true } }\n");
        PlanFixture.Result result = compile(
                yaml, Map.of("r.sql", "select id from t"), describing(new Field("id", FieldType.INTEGER, false)));
        assertThat(result.codes()).containsExactlyElementsOf(code.isEmpty() ? List.of() : List.of(code));
    }

    @Test
    void theNameOfASecretIsNoticed() {
        PlanFixture.Result result = compile(
                YAML.replace("      HERE: HERE\n", ""),
                Map.of("r.sql", "select id from t"),
                describing(new Field("id", FieldType.INTEGER, false), new Field("api_key", FieldType.STRING, false)));
        assertThat(result.codes()).containsExactly("field-sensitive");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    select * from t                                       | select-star
                    select b.* from t b                                   | select-star
                    select id from t where (:x is null or a = :x)         | optional-by-null
                    select id from t where a like '%x'                    | like-unanchored
                    select id from t where a like concat('%', b)          | like-unanchored
                    select id from t where a = 1 for update               | locking-read
                    select id from t lock in share mode                   | locking-read
                    select id, @n := @n + 1 as n from t                   | session-variable
                    select id from t order by id                          | statement-ordered
                    select id from t limit 5                              | statement-limited
                    delete from t                                         | change-without-where
                    update t set a = 1                                    | change-without-where
                    create table x (id int)                               | statement-kind
                    set @x = 1                                            | statement-kind
                    begin not atomic select 1; end                        | statement-kind
                    select 1 into @x                                      | statement-kind
                    """)
    void habitsAreNoticed(String sql, String code) {
        String yaml = YAML.replace(
                "      HERE: HERE\n",
                sql.contains(":x")
                        ? "      parameters: { x: { in: query, type: string, required: true, example: a } }\n"
                        : "");
        assertThat(compile(yaml, Map.of("r.sql", sql), describing(COLUMNS)).codes())
                .contains(code);
    }

    @ParameterizedTest
    @CsvSource({
        "'in: header, name: Authorization',parameter-reserved",
        "'in: header, name: Cookie',parameter-reserved",
        "'in: cookie, name: tidy_session',parameter-reserved",
        "'in: body',body-unexpected",
        "'in: form',body-unexpected",
        "'in: query, name: after',parameter-reserved"
    })
    void whatIsNoInputIsRefused(String in, String code) {
        String yaml = YAML.replace(
                "      HERE: HERE\n",
                "      parameters: { x: { " + in + ", type: string, required: true, example: a } }\n");
        assertThat(compile(yaml, Map.of("r.sql", "select id from t where a = :x"), describing(COLUMNS))
                        .codes())
                .containsExactly(code);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    select count(*) as n from t
                    select id, (select max(x) from u) as m from t
                    select id from t where a like 'x%' and b = '@x'
                    select id, @@version as v from t
                    select id, substring(a for 3) as s from t
                    """)
    void ordinaryStatementsAreLeftAlone(String sql) {
        assertThat(compile(YAML.replace("      HERE: HERE\n", ""), Map.of("r.sql", sql), describing(COLUMNS))
                        .codes())
                .isEmpty();
    }
}
