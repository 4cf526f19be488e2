package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.bind.BadInput;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.Start;

/** What callers may filter and sort by, and where their conditions are written. */
class FilterCompilerTest {

    private static final Field[] FIELDS = {
        column("id", FieldType.INTEGER, false),
        column("name", FieldType.STRING, true),
        column("has_power", FieldType.BOOLEAN, false),
        column("shape", FieldType.GEOMETRY, true),
        column("phone", FieldType.STRING, false),
        column("basin", FieldType.STRING, false),
        new Field("current_date", FieldType.DATE, false)
    };

    private static Field column(String name, FieldType type, boolean nullable) {
        return new Field(name, type, nullable, Field.Members.NONE, 10, new Field.Origin("waterways", "berth", name));
    }

    private static PlanFixture.Result compile(String rules, String sql) {
        String yaml = """
                module: m
                version: 1.0.0
                title: M
                source: s
                public: true
                routes:
                  /berths:
                    get:
                      about: Berths
                      sql: a.sql
                      answer: rows
                      order: [id]
                      fields: { phone: { mask: last-4 } }
                      parameters: { basin: { in: query, type: string, example: a } }
                      %s
                """.formatted(rules);
        return PlanFixture.compile(
                yaml, Map.of("a.sql", sql + "\n  b.basin = :basin -- when :basin"), PlanFixture.describing(FIELDS));
    }

    /** The statement of a request that gives one condition. */
    private static String written(String rules, String sql, String filter, Object value) throws BadInput {
        CollectionPlan plan = compile(rules, sql).collection();
        @Nullable Object[] values = new @Nullable Object[plan.inputs().size()];
        values[plan.filters().indexes().get(filter)] = value;
        return plan.statement()
                .variant(
                        values,
                        plan.order().from(Start.BEGINNING).with(plan.filters().take(values)))
                .sql()
                .replaceFirst("^/\\*.*\\*/ ", "");
    }

    private static final String PLAIN = "select b.id, b.name, b.has_power, b.shape, b.phone from berth b where";

    @Test
    void aConditionStandsAmongTheStatementsOwn() throws BadInput {
        assertThat(written("filter: name", PLAIN + " b.a = 1 or b.c = 2 and", "name[starts]", "50%_|x"))
                .isEqualTo("select * from (select b.id, b.name, b.has_power, b.shape, b.phone from berth b"
                        + " where (b.a = 1 or b.c = 2) and `b`.`name` like ? escape '|') as page_"
                        + " order by page_.`id` limit ?");
    }

    @Test
    void whereNoConditionIsLeftItBeginsOne() throws BadInput {
        assertThat(written("filter: has_power", PLAIN, "has_power[eq]", false))
                .isEqualTo("select * from (select b.id, b.name, b.has_power, b.shape, b.phone from berth b"
                        + " where `b`.`has_power` = 0) as page_ order by page_.`id` limit ?");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "select distinct b.id, b.name, b.has_power, b.shape, b.phone, row_number() over (order by b.id) n from berth b where",
                "select b.id, max(b.name) as name, b.has_power, b.shape, b.phone from berth b group by b.id having",
                "select b.id, concat(b.name, '') as name, b.has_power, b.shape, b.phone from berth b where",
                "select b.id, @n := b.name as name, b.has_power, b.shape, b.phone from berth b where",
                "select b.* from berth b join basin n where",
                "select * from (select b.id, b.name from berth b limit 5) b union select id, name from berth b where",
                "with b as (select * from berth) select b.id, b.name, b.has_power, b.shape, b.phone from b where"
            })
    void elsewhereItStandsAroundTheStatement(String sql) throws BadInput {
        assertThat(written("filter: name", sql, "name[eq]", "a"))
                .contains(") as page_ where page_.`name` = ? order by");
        assertThat(compile("filter: name\n      filter-at: statement", sql).codes())
                .contains("filter-unfit");
    }

    @Test
    void whatOnlyLooksLikeAColumnIsNone() throws BadInput {
        String sql = "select b.id, b.name, b.has_power, b.shape, b.phone, b.basin, current_date from berth b where";
        assertThat(written("filter: current_date", sql, "current_date[eq]", "2031-05-01"))
                .contains(") as page_ where page_.`current_date` = ?");
    }

    @Test
    void theTextSaysWhichPlace() throws BadInput {
        assertThat(written("filter: name\n      filter-at: answer", PLAIN, "name[in]", List.of("a", "b", "c")))
                .contains(") as page_ where page_.`name` in (?, ?, ?, ?) order by");
        assertThat(written("filter: name\n      filter-at: statement", PLAIN, "name[null]", true))
                .contains("where `b`.`name` is null)");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "filter: nam | filter-unknown",
                "filter: phone | filter-leaks",
                "filter: basin | filter-clashes",
                "filter: [name, name] | filter-unfit",
                "filter: { has_power: [gte] } | filter-unfit",
                "filter: [shape: eq] | filter-unfit",
                "filter: [name: [like]] | value-unfit",
                "filter: [name: []] | ''",
                "filter-at: somewhere | value-unfit",
                "sort: nam | sort-unknown",
                "sort: [phone] | sort-leaks",
                "sort: [shape] | sort-unfit",
                "show: [id, has_power] \\n      filter: name | filter-leaks",
                "show: [id, has_power] \\n      sort: name | sort-leaks",
            })
    void whatCannotBeIsFound(String rules, String code) {
        List<String> codes = compile(rules.replace("\\n", "\n"), PLAIN).codes();
        if (code.isEmpty()) {
            assertThat(codes).noneMatch(found -> found.startsWith("filter") || found.equals("value-unfit"));
        } else {
            assertThat(codes).contains(code);
        }
    }

    @Test
    void eachTypeHasItsOperators() {
        CollectionPlan plan =
                compile("filter: [id, name, has_power, shape]", PLAIN).collection();
        assertThat(plan.filters().all().stream()
                        .map(filter -> filter.parameter().wireName()))
                .containsExactly(
                        "id[eq]",
                        "id[ne]",
                        "id[lt]",
                        "id[lte]",
                        "id[gt]",
                        "id[gte]",
                        "id[in]",
                        "name[eq]",
                        "name[ne]",
                        "name[lt]",
                        "name[lte]",
                        "name[gt]",
                        "name[gte]",
                        "name[in]",
                        "name[starts]",
                        "name[contains]",
                        "name[null]",
                        "has_power[eq]",
                        "has_power[ne]",
                        "shape[null]");
    }
}
