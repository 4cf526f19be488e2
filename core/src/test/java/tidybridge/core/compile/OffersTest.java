package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.definition.Total;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.PageRequest;
import tidybridge.core.plan.Start;
import tidybridge.core.sql.Purpose;

/** What a text lets callers ask of rows: fields, formats, totals, and all of them at once. */
class OffersTest {

    private static final Field[] FIELDS = {
        new Field("id", FieldType.INTEGER, false),
        new Field("kind", FieldType.STRING, false, Field.Members.ONE, 10, null),
        new Field("note", FieldType.STRING, true)
    };

    private static PlanFixture.Result compile(String module, String rules) {
        String yaml = """
                module: m
                version: 1.0.0
                title: M
                source: s
                public: true
                %s
                routes:
                  /berths:
                    get:
                      about: Berths
                      sql: a.sql
                      answer: rows
                      order: [kind, id]
                      filter: [note: eq]
                      %s
                """.formatted(module, rules.replace(";", "\n      "));
        return PlanFixture.compile(
                yaml, Map.of("a.sql", "select id, kind, note from berth"), PlanFixture.describing(FIELDS));
    }

    private static String written(CollectionPlan plan, PageRequest request) {
        return plan.statement()
                .variant(new @Nullable Object[plan.inputs().size()], request)
                .sql()
                .replaceFirst("^/\\*.*\\*/ ", "");
    }

    @Test
    void nothingIsOfferedUnlessTheTextSaysSo() {
        CollectionPlan plan = compile("", "").collection();
        assertThat(plan.forms().formats()).isEmpty();
        assertThat(plan.forms().choices().names()).isEmpty();
        assertThat(plan.totals().offered()).isEmpty();
        assertThat(plan.page().offersAll()).isFalse();
    }

    @Test
    void anOperationSaysWhatDiffersFromItsModule() {
        String module = "formats: csv\nchosen-fields: true\npage: { all: true, most-all: 5000, all-timeout: 30m }";
        CollectionPlan usual = compile(module, "").collection();
        assertThat(usual.forms().formats()).containsExactly(RowFormat.JSON, RowFormat.CSV);
        assertThat(usual.forms().choices().names()).containsExactly("id", "kind", "note");
        assertThat(usual.page().mostOfAll()).isEqualTo(5_000);
        assertThat(usual.page().allTimeout()).isEqualTo(Duration.ofMinutes(30));
        CollectionPlan other = compile(module, "formats: [xlsx, ndjson];chosen-fields: false;page: { all: false }")
                .collection();
        assertThat(other.forms().formats()).containsExactly(RowFormat.JSON, RowFormat.NDJSON, RowFormat.XLSX);
        assertThat(other.forms().choices().names()).isEmpty();
        assertThat(other.page().offersAll()).isFalse();
    }

    @Test
    void theRowsAreCountedWithoutOrderAndPosition() {
        CollectionPlan plan = compile("", "total: [exact, estimate]").collection();
        assertThat(plan.totals().offered()).containsExactlyInAnyOrder(Total.values());
        assertThat(written(plan, plan.order().from(Start.AFTER_TIES).with(Purpose.COUNT)))
                .isEqualTo("select count(*) from (select id, kind, note from berth) as page_");
    }

    /** What is not chosen is null, so that the columns behind it stay where they are; what the order needs is read besides. */
    @Test
    void onlyChosenColumnsAreRead() {
        CollectionPlan plan = compile("", "chosen-fields: true").collection();
        PageRequest request = plan.order()
                .from(Start.BEGINNING)
                .with(plan.forms().choices().choose("id").columns());
        assertThat(written(plan, request))
                .isEqualTo("select page_.`id`, page_.`kind`, null, cast(page_.`kind` as unsigned)"
                        + " from (select id, kind, note from berth) as page_"
                        + " order by page_.`kind`, page_.`id` limit ?");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            chosen-fields: true;parameters: { fields: { in: query, type: string } }  | parameter-reserved
            formats: csv;parameters: { header: { in: query, type: string } }         | parameter-reserved
            formats: xlsx;parameters: { format: { in: query, type: string } }        | parameter-reserved
            total: exact;parameters: { total: { in: query, type: string } }          | parameter-reserved
            formats: pdf                                                             | value-unfit
            total: [exact, rough]                                                    | value-unfit
            total: estimate;total-timeout: 2s                                        | value-unfit
            page: { most-all: 10 }                                                   | value-unfit
            page: { all: true, all-timeout: 200m }                                   | value-unfit
            answer: value;total: exact                                               | value-unfit
            """)
    void whatCannotBeOfferedIsAFinding(String rules, String code) {
        String last = rules.startsWith("answer: value") ? rules.replace("answer: value;", "") : rules;
        PlanFixture.Result result = rules.equals(last) ? compile("", rules) : value(last);
        assertThat(result.codes()).contains(code);
    }

    @Test
    void aParameterMayBeCalledAsWhatIsNotOffered() {
        String free = "parameters: { format: { in: query, type: string }, fields: { in: query, type: string } }";
        assertThat(compile("", free).codes()).doesNotContain("parameter-reserved");
    }

    private static PlanFixture.Result value(String rules) {
        String yaml = """
                module: m
                version: 1.0.0
                title: M
                source: s
                routes:
                  /count:
                    get: { about: Count, sql: a.sql, answer: value, %s }
                """.formatted(rules);
        return PlanFixture.compile(yaml, Map.of("a.sql", "select 1 as n"), PlanFixture.describing(FIELDS[0]));
    }
}
