package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.core.compile.PlanFixture.compile;
import static tidybridge.core.compile.PlanFixture.describing;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.Start;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.Variant;
import tidybridge.core.sql.TimeLimit;

class CompilerTest {

    private static final String COLLECTION = """
            module: moorings
            version: 1.2.0
            title: Berths
            source: waterways
            public: false
            routes:
              /berths:
                get:
                  about: Berths
                  sql: berths.sql
                  answer: rows
                  order: [basin, id desc]
                  parameters:
                    basin: { in: query, type: string, example: Heron Pool }
                    least: { in: query, type: number, example: 12 }
            """;

    private static final Map<String, String> STATEMENT = Map.of("berths.sql", """
            select basin, id from berth
            where basin = :basin     -- when :basin
              and length >= :least   -- when :least
            """);

    private static final Field BASIN = new Field("basin", FieldType.STRING, false);
    private static final Field ID = new Field("id", FieldType.INTEGER, false);

    @Test
    void aPageIsPutAroundTheStatement() {
        CollectionPlan plan =
                compile(COLLECTION, STATEMENT, describing(BASIN, ID)).collection();
        Variant first =
                plan.statement().variant(new Object[] {"x", null}, plan.order().from(Start.BEGINNING));
        assertThat(first.sql())
                .isEqualTo(
                        "/* moorings/v1 GET /berths */ select * from (select basin, id from berth where basin = ?) as page_"
                                + " order by page_.`basin`, page_.`id` desc limit ?");
        assertThat(first.slots()).containsExactly(0, Variant.LIMIT);
    }

    @Test
    void afterAChangeOneRangeOnTheFirstKeyIsReadAndItsFirstRowsLookedAt() {
        CollectionPlan plan =
                compile(COLLECTION, STATEMENT, describing(BASIN, ID)).collection();
        Variant next =
                plan.statement().variant(new Object[] {null, 5}, plan.order().from(Start.AFTER_CHANGE));
        assertThat(next.sql())
                .contains("where length >= ?) as page_ where page_.`basin` >= ? and case when page_.`basin` = ? "
                        + "then page_.`id` < ? else true end order by");
        assertThat(next.slots())
                .containsExactly(1, Variant.continued(0), Variant.continued(0), Variant.continued(1), Variant.LIMIT);
        assertThat(Variant.key(next.slots()[3])).isEqualTo(1);
    }

    @Test
    void afterTiesTheRangeStartsAtTheVeryRow() {
        CollectionPlan plan =
                compile(COLLECTION, STATEMENT, describing(BASIN, ID)).collection();
        Variant next =
                plan.statement().variant(new Object[] {null, 5}, plan.order().from(Start.AFTER_TIES));
        assertThat(next.sql()).contains("where page_.`basin` > ? or page_.`basin` = ? and (page_.`id` < ?) order by");
    }

    @Test
    void nullsStandBeforeEveryValue() {
        Field basin = new Field("basin", FieldType.STRING, true);
        Field id = new Field("id", FieldType.INTEGER, true);
        CollectionPlan plan =
                compile(COLLECTION, STATEMENT, describing(basin, id)).collection();
        assertThat(after(plan, Start.AFTER_TIES, 0b00))
                .isEqualTo("page_.`basin` > ? or page_.`basin` = ? and (page_.`id` < ? or page_.`id` is null)");
        assertThat(after(plan, Start.AFTER_TIES, 0b01))
                .isEqualTo(
                        "page_.`basin` is not null or page_.`basin` is null and (page_.`id` < ? or page_.`id` is null)");
        assertThat(after(plan, Start.AFTER_CHANGE, 0b01)).isEqualTo(after(plan, Start.AFTER_TIES, 0b01));
        assertThat(after(plan, Start.AFTER_TIES, 0b10)).isEqualTo("page_.`basin` > ? or page_.`basin` = ? and (false)");
    }

    private static String after(CollectionPlan plan, Start start, long nulls) {
        String sql = plan.statement()
                .variant(new Object[] {null, 5}, plan.order().from(start, nulls))
                .sql();
        return sql.substring(sql.indexOf("as page_ where ") + 15, sql.indexOf(" order by"));
    }

    @Test
    void aMemberOfAListIsContinuedByItsPlace() {
        Field basin = new Field("basin", FieldType.STRING, false, Field.Members.ONE, 9, null);
        CollectionPlan plan =
                compile(COLLECTION, STATEMENT, describing(basin, ID)).collection();
        Variant next =
                plan.statement().variant(new Object[] {null, 5}, plan.order().from(Start.AFTER_TIES));
        assertThat(next.sql()).contains("select page_.*, cast(page_.`basin` as unsigned) from (");
        assertThat(plan.order().keys().getFirst().place()).isEqualTo(2);
    }

    @Test
    void anOrderThatIsTooLongForAnAddressIsFound() {
        Field basin = new Field("basin", FieldType.STRING, false, Field.Members.NONE, 1_001, null);
        assertThat(compile(COLLECTION, STATEMENT, describing(basin, ID)).codes())
                .contains("order-unfit");
    }

    @Test
    void eachCombinationIsWrittenOnce() {
        CollectionPlan plan =
                compile(COLLECTION, STATEMENT, describing(BASIN, ID)).collection();
        StatementPlan statement = plan.statement();
        Variant one = statement.variant(new Object[] {"a", null}, plan.order().from(Start.BEGINNING));
        assertThat(statement.variant(new Object[] {"b", null}, plan.order().from(Start.BEGINNING)))
                .isSameAs(one);
        assertThat(statement.variant(new Object[] {null, null}, plan.order().from(Start.BEGINNING)))
                .isNotSameAs(one);
        assertThat(statement.variant(new Object[] {"a", null}, plan.order().from(Start.AFTER_TIES)))
                .isNotSameAs(one);
    }

    @Test
    void theSourceIsAskedAboutEveryKindOfForm() {
        List<String> asked = new ArrayList<>();
        Catalog catalog = sql -> {
            asked.add(sql);
            return new Described.Fields(List.of(BASIN, ID));
        };
        compile(COLLECTION, STATEMENT, catalog);
        assertThat(asked).hasSize(15).doesNotHaveDuplicates();
        asked.clear();
        Findings findings = new Findings();
        Map<String, String> files = new HashMap<>(STATEMENT);
        files.put("module.yaml", COLLECTION);
        var definition = ModuleReader.read(new ModuleText("m", files), findings).orElseThrow();
        assertThat(Compiler.compileReleased(definition, catalog, findings)).isPresent();
        assertThat(asked).as("of a released module").hasSize(3);
    }

    @Test
    void whatAReleaseAcceptsStaysAccepted() {
        Findings findings = new Findings();
        Map<String, String> files = new HashMap<>();
        files.put("berths.sql", "select * from berth where basin = :basin and length >= :least");
        files.put(
                "module.yaml",
                COLLECTION.replace(
                        "      order:",
                        "      accept: { select-star: all of it is meant, parameter-optional-bound: so it is }\n      order:"));
        var definition = ModuleReader.read(new ModuleText("m", files), findings).orElseThrow();
        assertThat(Compiler.compileReleased(definition, describing(BASIN, ID), findings))
                .isPresent();
        assertThat(findings.sorted()).isNotEmpty().allMatch(finding -> finding.accepted() != null);
    }

    @Test
    void aFormThatTheSourceRefusesKeepsTheModuleFromBeingPublished() {
        Catalog catalog = sql -> sql.contains("length")
                ? new Described.Fields(List.of(BASIN, ID))
                : new Described.Refused("Unknown column 'basin'");
        PlanFixture.Result result = compile(COLLECTION, STATEMENT, catalog);
        assertThat(result.plan()).isEmpty();
        assertThat(result.codes()).containsExactly("statement-refused");
        assertThat(result.findings().getFirst().message()).contains("Unknown column 'basin'");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '"', textBlock = """
                    Unknown column 'length' in 'WHERE'                                          | 3:7
                    Unknown column 'x.basin' in 'SELECT'                                        | 1:8
                    Table 'waterways.berth' doesn't exist                                       | 1:23
                    You have an error in your SQL syntax near 'and length >= ?) as page_' at line 1 | 3:3
                    Something else                                                              | 0:0
                    """)
    void aRefusalStandsWhereItsNameDoes(String reason, String place) {
        PlanFixture.Result result = compile(COLLECTION, STATEMENT, sql -> new Described.Refused(reason));
        var found = result.findings().getFirst().place();
        assertThat(found.line() + ":" + found.column()).isEqualTo(place);
    }

    @Test
    void theSourcesOwnTimeLimitIsPartOfEachForm() {
        Catalog catalog = new Catalog() {
            @Override
            public Described describe(String sql) {
                return new Described.Fields(List.of(BASIN, ID));
            }

            @Override
            public String bounded(String sql, TimeLimit limit) {
                return "within " + limit.time().toMillis() + ": " + sql;
            }
        };
        String yaml = COLLECTION.replace("answer: rows", "answer: rows\n      timeout: 1500ms");
        Variant form = compile(yaml, STATEMENT, catalog).operation().statement().variant(new Object[2]);
        assertThat(form.sql()).startsWith("within 1500: /* moorings/v1");
    }

    @ParameterizedTest
    @CsvSource({
        "basin,GEOMETRY,false,order-unfit",
        "basin,JSON,false,order-unfit",
        "bassin,STRING,false,order-unknown",
        "id,STRING,false,field-twice",
        "count(*),STRING,false,field-unnamed"
    })
    void fieldsThatDoNotFitAreFound(String name, FieldType type, boolean nullable, String code) {
        PlanFixture.Result result = compile(COLLECTION, STATEMENT, describing(new Field(name, type, nullable), ID));
        assertThat(result.plan()).isEmpty();
        assertThat(result.codes()).contains(code);
    }

    @Test
    void aValueHasOneField() {
        String yaml =
                COLLECTION.replace("answer: rows", "answer: value").replace("      order: [basin, id desc]\n", "");
        assertThat(compile(yaml, STATEMENT, describing(BASIN, ID)).codes()).containsExactly("answer-unfit");
        assertThat(compile(yaml, STATEMENT, describing(ID)).plan()).isPresent();
    }

    @Test
    void offlineThereIsNoPlanAndNoFinding() {
        PlanFixture.Result result = compile(COLLECTION, STATEMENT, Catalog.offline());
        assertThat(result.plan()).isEmpty();
        assertThat(result.findings()).isEmpty();
    }

    @Test
    void pageRulesComeFromTheModuleUnlessTheOperationSaysOtherwise() {
        String yaml = COLLECTION.replace("source: waterways", "source: waterways\npage: { limit: 10, most: 50 }");
        assertThat(compile(yaml, STATEMENT, describing(BASIN, ID)).collection().page())
                .hasToString("PageRule[limit=10, most=50, mostOfAll=0, allTimeout=PT10M, jumps=false]");
        String own = yaml.replace("answer: rows", "answer: rows\n      page: { most: 5 }");
        assertThat(compile(own, STATEMENT, describing(BASIN, ID)).collection().page())
                .hasToString("PageRule[limit=5, most=5, mostOfAll=0, allTimeout=PT10M, jumps=false]");
        String wrong = yaml.replace("answer: rows", "answer: rows\n      page: { limit: 9, most: 5 }");
        assertThat(compile(wrong, STATEMENT, describing(BASIN, ID)).codes()).containsExactly("value-unfit");
    }
}
