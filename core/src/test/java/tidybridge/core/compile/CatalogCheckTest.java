package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.catalog.Access;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;
import tidybridge.core.infer.BindTypes;
import tidybridge.core.infer.Uniqueness;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.SourceText;

/** What is told from a statement's text and a catalog together. */
class CatalogCheckTest {

    private static ColumnType type(String text, @Nullable Long length) {
        return new ColumnType(
                text,
                text.replaceAll("[ (].*", ""),
                text.contains("unsigned"),
                length,
                null,
                null,
                null,
                ColumnType.members(text));
    }

    private static Column column(String name, String type, @Nullable Long length) {
        return new Column(name, type(type, length), false, null, false, false, "");
    }

    private static final Relation BASIN = new Relation(
            "basin",
            Relation.Kind.TABLE,
            5,
            "",
            true,
            null,
            List.of(column("id", "int unsigned", null), column("name", "varchar(60)", 60L)),
            List.of(
                    new Index("PRIMARY", true, true, List.of("id")),
                    new Index("by_name", true, false, List.of("name"))),
            List.of());

    private static final Relation BERTH = new Relation(
            "berth",
            Relation.Kind.TABLE,
            400,
            "",
            true,
            null,
            List.of(
                    column("id", "int unsigned", null),
                    column("basin_id", "int unsigned", null),
                    column("berth_no", "varchar(8)", 8L),
                    column("length_m", "decimal(5,2)", null),
                    column("status", "enum('free','taken')", null)),
            List.of(
                    new Index("PRIMARY", true, true, List.of("id")),
                    new Index("in_basin", true, false, List.of("basin_id", "berth_no"))),
            List.of());

    private static final Relation OVERVIEW = new Relation(
            "overview",
            Relation.Kind.VIEW,
            -1,
            "",
            true,
            null,
            List.of(column("id", "int", null)),
            List.of(),
            List.of());

    private static Relation view(String name, String definition, String... columns) {
        return new Relation(
                name,
                Relation.Kind.VIEW,
                -1,
                "",
                true,
                definition,
                java.util.Arrays.stream(columns)
                        .map(column -> column(column, "int", null))
                        .toList(),
                List.of(),
                List.of());
    }

    /** As the database writes them. */
    private static final List<Relation> VIEWS = List.of(
            view(
                    "counted",
                    "select `b`.`id` AS `id`,`b`.`name` AS `name`,count(0) AS `berths` from (`waterways`.`basin` `b` join"
                            + " `waterways`.`berth` `r` on(`r`.`basin_id` = `b`.`id`)) group by `b`.`id`,`b`.`name`",
                    "id",
                    "name",
                    "berths"),
            view(
                    "placed",
                    "select `waterways`.`berth`.`id` AS `number`,`n`.`name` AS `basin`,`waterways`.`berth`.`berth_no` AS `no` from"
                            + " (`waterways`.`berth` straight_join `waterways`.`basin` `n` on(`waterways`.`berth`.`basin_id` = `n`.`id`))",
                    "number",
                    "basin",
                    "no"),
            view(
                    "again",
                    "select `p`.`number` AS `number`,`p`.`no` AS `no` from `waterways`.`placed` `p`",
                    "number",
                    "no"),
            view(
                    "either",
                    "select `waterways`.`berth`.`id` AS `id` from `waterways`.`berth` union select 1 AS `1`",
                    "id"),
            view("elsewhere", "select `x`.`id` AS `id` from `other`.`berth` `x`", "id"));

    private static final Routine TOLL = new Routine(
            "toll",
            Routine.Kind.FUNCTION,
            type("decimal(8,2)", null),
            List.of(new Routine.Parameter("the_lock", Routine.Mode.IN, type("int unsigned", null))),
            Routine.Access.READS_DATA,
            "");

    private static final Contents CONTENTS = new Contents(
            "waterways",
            Instant.EPOCH,
            java.util.stream.Stream.concat(java.util.stream.Stream.of(BASIN, BERTH, OVERVIEW), VIEWS.stream())
                    .toList(),
            List.of(TOLL));

    @Test
    void tablesWhoseNamesDifferByCaseAloneAreToldApart() throws Exception {
        Relation upper = new Relation(
                "Berth",
                Relation.Kind.TABLE,
                1,
                "",
                true,
                null,
                List.of(column("id", "int", null), column("word", "varchar(8)", 8L)),
                List.of(),
                List.of());
        Contents contents = new Contents("waterways", Instant.EPOCH, List.of(BERTH, upper, BASIN), List.of());
        assertThat(contents.relation("Berth")).contains(upper);
        assertThat(contents.relation("berth")).contains(BERTH);
        assertThat(contents.relation("BERTH")).as("nobody knows which").isEmpty();
        assertThat(contents.relation("BASIN")).contains(BASIN);
        Uniqueness both = new Uniqueness(
                outline("select berth.id as id, Berth.word from berth, Berth where berth.id = :id"),
                contents,
                Dialect.usual());
        assertThat(both.of(List.of())).isEqualTo(Uniqueness.Verdict.NO);
        Uniqueness keyless = new Uniqueness(outline("select id from Berth"), contents, Dialect.usual());
        assertThat(keyless.of(List.of("id"))).isEqualTo(Uniqueness.Verdict.NO);
    }

    private static Outline outline(String sql) throws Exception {
        return Statement.scan(new SourceText("t.sql", sql), Dialect.usual()).outline();
    }

    @Nested
    class Rows {

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        id                | YES     | select id, length_m from berth
                        length_m          | NO      | select id, length_m from berth
                        basin_id,berth_no | YES     | select basin_id, berth_no from berth
                        basin,berth_no    | YES     | select n.name as basin, b.berth_no from berth b join basin n on n.id = b.basin_id
                        basin             | NO      | select n.name as basin, b.berth_no from berth b join basin n on n.id = b.basin_id
                        id                | YES     | select b.id, n.name from berth b left join basin n on b.basin_id = n.id and n.name <> 'x'
                        id                | NO      | select b.id, n.name from berth b join basin n on n.name < b.berth_no
                        id                | NO      | select b.id from berth b, basin n
                        berth_no          | YES     | select berth_no from berth where basin_id = :basin
                        berth_no          | NO      | select berth_no from berth where basin_id = :basin or length_m = 3
                        berth_no          | NO      | select berth_no from berth where basin_id > :basin
                        id                | UNKNOWN | select id from overview
                        id                | UNKNOWN | select id from berth union select id from basin
                        id                | UNKNOWN | select x.id from (select id from berth) x
                        basin_id          | YES     | select basin_id, count(*) as n from berth group by basin_id
                        n                 | NO      | select basin_id, count(*) as n from berth group by basin_id
                        name              | YES     | select n.name, max(b.length_m) as m from berth b join basin n on n.id = b.basin_id group by n.id
                        length_m          | YES     | select distinct length_m from berth
                        id                | YES     | with x as (select 1) select id from berth
                        other             | YES     | select b.id as other from berth b use index (by_length) where b.length_m > 1
                        id                | YES     | select * from berth
                        b_id              | NO      | select a.id as a_id, b.id as b_id from berth a join berth b on b.basin_id = a.basin_id
                        a_id,b_id         | YES     | select a.id as a_id, b.id as b_id from berth a join berth b on b.basin_id = a.basin_id
                        id                | YES     | select b.id from berth b join basin n using (id)
                        name              | YES     | select id, name, berths from counted
                        berths            | NO      | select id, name, berths from counted
                        number            | YES     | select number, no from placed
                        basin,no          | YES     | select number, basin, no from placed
                        no                | NO      | select number, no from placed
                        no                | YES     | select no from placed where basin = :basin
                        number            | YES     | select a.number from again a join basin n on n.id = a.no
                        no                | NO      | select number, no from again
                        id                | UNKNOWN | select id from either
                        id                | UNKNOWN | select id from elsewhere
                        id                | YES     | select b.id from waterways.berth b
                        id                | UNKNOWN | select b.id from other.berth b
                        id                | YES     | select b.id from berth b left join basin n using (id)
                        n_id              | NO      | select b.id as b_id, n.id as n_id from berth b left join basin n on n.id = b.id
                        b_id              | YES     | select b.id as b_id, n.id as n_id from berth b left outer join basin n on b.id = n.id
                        b_id              | NO      | select b.id as b_id, n.id as n_id from berth b right join basin n on b.id = n.id
                        n_id              | NO      | select b.length_m, n.id as n_id from berth b left join basin n on b.id = 5 and n.id = b.basin_id
                        """)
        void areToldApartByFields(String fields, Uniqueness.Verdict verdict, String sql) throws Exception {
            assertThat(new Uniqueness(outline(sql), CONTENTS, Dialect.usual()).of(List.of(fields.split(","))))
                    .isEqualTo(verdict);
        }

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        YES     | select id from berth where id = :id
                        YES     | select id from berth where id = (select max(id) from berth)
                        YES     | select b.id from berth b where b.id = (select max(x.id) from berth x where x.length_m > 3)
                        NO      | select b.id from berth b where b.id = (select max(x.id) from berth x where x.basin_id = b.basin_id)
                        NO      | select b.id from berth b where b.id = (select max(id) from basin where id = basin_id)
                        NO      | select b.id from berth b where b.id = (select x.id from (select b.length_m as id) as x)
                        NO      | select b.id from berth b where b.id = (select n.id from basin n where exists (select 1 from basin o where o.id = b.basin_id) limit 1)
                        YES     | select b.id from berth b join basin n on n.id = b.basin_id where :id = b.id and b.length_m > 1
                        YES     | select count(*) as n from berth where length_m > :least
                        YES     | select id from berth where length_m > 1 limit 1
                        YES     | select id from berth where basin_id = :b and berth_no = :n
                        YES     | select b.id from basin n join berth b on b.basin_id = n.id where n.name = :name and b.berth_no = 'A1'
                        YES     | select toll(:lock) as due
                        YES     | select id from berth where (id = :id and length_m > 2)
                        NO      | select id from berth where basin_id = :basin
                        NO      | select id from berth
                        NO      | select id from berth where id = length_m
                        NO      | select b.id from berth b left join basin n on b.id = 5 and n.id = b.basin_id
                        NO      | select id from berth\\nlimit 1 -- when :x
                        NO      | select id from berth where length_m = (select max(length_m) from berth)
                        NO      | select id, (select count(*) from basin) as n from berth
                        NO      | select id, row_number() over (order by id) as n, sum(length_m) over () as s from berth
                        UNKNOWN | select id from overview where id = :id
                        """)
        void canBeMany(Uniqueness.Verdict verdict, String sql) throws Exception {
            assertThat(new Uniqueness(outline(sql.replace("\\n", "\n")), CONTENTS, Dialect.usual()).of(List.of()))
                    .isEqualTo(verdict);
        }

        @Test
        void aConditionThatMayVanishProvesNothing() throws Exception {
            String sql = "select id from berth\nwhere id = :id -- when :id";
            assertThat(new Uniqueness(outline(sql), CONTENTS, Dialect.usual()).of(List.of()))
                    .isEqualTo(Uniqueness.Verdict.NO);
        }
    }

    @Nested
    class BindParameters {

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        x | berth.length_m   | select 1 from berth where length_m >= :x
                        x | berth.length_m   | select 1 from berth b where :x <= b.length_m
                        x | berth.length_m   | select 1 from berth b where b.length_m between 1 and :x
                        y | berth.length_m   | select 1 from berth b where b.length_m between :y and :x
                        x | basin.name       | select 1 from berth b join basin n on n.id = b.basin_id where n.name like :x
                        x | basin.name       | select 1 from berth b join basin n on n.id = b.basin_id where name = :x
                        x | berth.berth_no   | select 1 from berth where berth_no in (:x)
                        x | berth.berth_no   | select 1 from berth where berth_no not in (:x)
                        x | berth.id         | select 1 from basin n where exists (select 1 from berth b where b.id = :x)
                        x | basin.name       | select 1 from basin n where exists (select 1 from berth b where n.name = :x)
                        x | berth.length_m   | update berth set length_m = :x where id = :y
                        y | berth.id         | update berth set length_m = :x where id = :y
                        x | berth.berth_no   | insert into berth (id, berth_no) values (1, :x)
                        x | toll(the_lock)   | select toll(:x) as due
                        x | a number of rows | select id from berth limit :x
                        x | berth.id         | delete from berth where id = :x
                        """)
        void meetColumnsArgumentsAndLimits(String bind, String where, String sql) throws Exception {
            assertThat(new BindTypes(CONTENTS).of(outline(sql)).get(bind))
                    .singleElement()
                    .extracting(BindTypes.Met::where)
                    .isEqualTo(where);
        }

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        select 1 from berth, basin where id = :x
                        select 1 from berth where length_m + 1 = :x * 2
                        select 1 from unheard_of where a = :x
                        select :x as given
                        select 1 from berth where coalesce(length_m, 0) = :x
                        select 1 from berth b where b.length_m - b.id >= :x
                        select 1 from berth b where :x = b.length_m - b.id
                        select 1 from berth b where 1 + :x = b.length_m
                        select 1 from berth b where 2 * b.length_m between :x and 3
                        """)
        void areNotGuessed(String sql) throws Exception {
            assertThat(new BindTypes(CONTENTS).of(outline(sql))).doesNotContainKey("x");
        }
    }

    @Nested
    class WhatIsFound {

        private static final String MODULE = """
                module: moorings
                version: 1.0.0
                title: Berths
                source: waterways
                public: false
                routes:
                  /berths:
                    get:
                      about: Berths
                      sql: berths.sql
                      answer: rows
                      order: [id]
                      parameters:
                        x: { in: query, type: TYPE, required: true, example: EXAMPLE }
                """;

        private List<String> codes(String type, String example, String sql, Access... accesses) {
            return PlanFixture.compile(
                            MODULE.replace("TYPE", type).replace("EXAMPLE", example),
                            Map.of("berths.sql", sql),
                            catalog(accesses))
                    .codes();
        }

        private Catalog catalog(Access... accesses) {
            return new Catalog() {
                @Override
                public Described describe(String sql) {
                    return new Described.Fields(List.of(new Field("id", FieldType.INTEGER, false)));
                }

                @Override
                public Optional<Contents> contents() {
                    return Optional.of(CONTENTS);
                }

                @Override
                public List<Access> explain(String sql, List<Object> values) {
                    assertThat(values)
                            .hasSize((int) sql.chars().filter(c -> c == '?').count());
                    return List.of(accesses);
                }
            };
        }

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        string                       | a    | length_m >= :x       | type-mismatch
                        date                         | 2031-05-01 | length_m >= :x | type-mismatch
                        'string, maxLength: 20'      | a    | berth_no = :x        | length-beyond-column
                        'string, enum: [free, gone]' | free | status = :x          | enum-beyond-column
                        'array, items: { type: date }' | 2031-05-01 | length_m in (:x) | type-mismatch
                        """)
        void typesThatDoNotFit(String type, String example, String condition, String code) {
            assertThat(codes(type, example, "select id from berth where " + condition))
                    .containsExactly(code);
        }

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        number  | 12   | length_m >= :x
                        integer | 12   | length_m >= :x
                        string  | A1   | berth_no = :x
                        'array, items: { type: integer }' | 3 | id in (:x)
                        """)
        void typesThatFit(String type, String example, String condition) {
            assertThat(codes(type, example, "select id from berth where " + condition))
                    .isEmpty();
        }

        @Test
        void ordersThatAreNotTotal() {
            String sql = "select b.id from berth b join basin n on n.id <> b.id where b.id > :x";
            assertThat(codes("integer", "1", sql)).containsExactly("order-not-total");
            assertThat(codes("integer", "1", "select id from overview where id > :x"))
                    .containsExactly("order-not-total");
        }

        @Test
        void plansWithoutIndexes() {
            String sql = "select id from berth where id > :x";
            Access whole = new Access(1, "b", Access.Way.WHOLE_TABLE, null, List.of(), 5_000, List.of());
            Access sorted = new Access(
                    1, "b", Access.Way.RANGE, "i", List.of(), 5_000, List.of("Using where", "Using filesort"));
            Access small = new Access(1, "b", Access.Way.WHOLE_TABLE, null, List.of(), 400, List.of("Using filesort"));
            assertThat(codes("integer", "1", sql, whole)).containsExactly("filter-without-index");
            assertThat(codes("integer", "1", sql, sorted)).containsExactly("order-without-index");
            assertThat(codes("integer", "1", sql, small)).isEmpty();
        }

        @Test
        void acceptedFindingsKeepTheirReasonAndIdleAcceptancesAreFound() {
            String yaml = MODULE.replace("TYPE", "string")
                    .replace("EXAMPLE", "a")
                    .replace(
                            "about: Berths",
                            "about: Berths\n      accept: { type-mismatch: known, select-star: never }");
            PlanFixture.Result result = PlanFixture.compile(
                    yaml, Map.of("berths.sql", "select id from berth where length_m = :x"), catalog());
            assertThat(result.codes()).containsExactlyInAnyOrder("type-mismatch", "acceptance-idle");
            assertThat(result.findings().stream()
                            .filter(finding -> finding.isAccepted())
                            .map(finding -> finding.accepted()))
                    .containsExactly("known");
        }
    }
}
