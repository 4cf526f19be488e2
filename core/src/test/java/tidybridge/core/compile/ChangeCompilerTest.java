package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;
import tidybridge.core.catalog.Routine.Mode;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.StepDefinition.ChangeLimit;
import tidybridge.core.finding.Code;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.StepPlan;
import tidybridge.core.plan.StepSequence;
import tidybridge.core.sql.StatementKind;

/** Operations that change data, compiled against a catalog that knows a table and a procedure. */
class ChangeCompilerTest {

    private static final ColumnType INT = new ColumnType("int", "int", false, null, null, null, null, List.of());

    private static final Routine MOVE = new Routine(
            "move",
            Routine.Kind.PROCEDURE,
            null,
            List.of(
                    new Routine.Parameter("crate", Mode.IN, INT),
                    new Routine.Parameter("tally", Mode.INOUT, INT),
                    new Routine.Parameter("made", Mode.OUT, INT)),
            Routine.Access.MODIFIES_DATA,
            "");

    private static final Routine LOUD = new Routine(
            "loud",
            Routine.Kind.PROCEDURE,
            null,
            List.of(new Routine.Parameter("crate", Mode.IN, INT)),
            Routine.Access.MODIFIES_DATA,
            "");

    private static final String HEAD = """
            module: stores
            version: 1.0.0
            title: Stores
            source: waterways
            public: false
            routes:
              /crates/{id}:
            """;

    private static final String PATH = "id: { in: path, type: integer, example: 1 }";

    private static Catalog catalog(boolean readOnly) {
        Contents contents = new Contents(
                "waterways",
                Instant.EPOCH,
                List.of(new Relation(
                        "scrap", Relation.Kind.TABLE, 1, "", false, null, List.of(), List.of(), List.of())),
                List.of(MOVE, LOUD));
        return new Catalog() {
            @Override
            public Described describe(String sql) {
                return new Described.Fields(
                        sql.contains("select")
                                ? List.of(
                                        new Field("id", FieldType.INTEGER, false),
                                        new Field("label", FieldType.STRING, true),
                                        new Field("changed_at", FieldType.MOMENT, true))
                                : List.of());
            }

            @Override
            public Optional<Contents> contents() {
                return Optional.of(contents);
            }

            @Override
            public Optional<String> procedureBody(String name) {
                return name.equals("loud") ? Optional.of("begin select 1; commit; end") : Optional.empty();
            }

            @Override
            public boolean isReadOnly() {
                return readOnly;
            }
        };
    }

    private static PlanFixture.Result compile(String operations, String... statements) {
        Map<String, String> files = new HashMap<>();
        for (int i = 0; i < statements.length; i++) {
            files.put((char) ('a' + i) + ".sql", statements[i]);
        }
        return PlanFixture.compile(HEAD + operations.indent(4), files, catalog(false));
    }

    private static String errors(PlanFixture.Result result) {
        return result.findings().stream()
                .filter(finding -> finding.isError())
                .map(finding -> finding.code().label() + ": " + finding.message())
                .reduce("", (one, other) -> one + other + "\n");
    }

    @Test
    void aFormThatChangesEveryRowIsFoundAndMayBeMeant() {
        String yaml = """
                delete:
                  about: Clear
                  sql: a.sql
                  answer: nothing
                  changes: any
                  parameters:
                    basin: { in: query, type: string }
                """;
        String sql = "delete from scrap\nwhere basin = :basin -- when :basin";
        assertThat(compile(yaml, sql).findings())
                .filteredOn(finding -> finding.code() == Code.CHANGE_WITHOUT_WHERE)
                .singleElement()
                .satisfies(finding -> assertThat(finding.message())
                        .isEqualTo("When nothing of basin is given, the statement changes every row of its table."));
        String meant = yaml.replace(
                "  changes: any\n", "  changes: any\n  accept: { change-without-where: a yearly clearing }\n");
        assertThat(compile(meant, sql).findings())
                .filteredOn(finding -> finding.code() == Code.CHANGE_WITHOUT_WHERE)
                .allMatch(finding -> finding.accepted() != null);
        assertThat(compile(yaml.replace("type: string", "type: string, required: true"), sql)
                        .codes())
                .doesNotContain("change-without-where");
    }

    @Test
    void aPlainChangeHasItsLimitsStatusAndColumns() {
        PlanFixture.Result result = compile("""
                put:
                  about: Change
                  sql: a.sql
                  answer: row
                  location: /crates/{id}
                  parameters: { %s, label: { in: body, type: string, example: x } }
                """.formatted(PATH), "update crate set label = :label where id = :id");
        assertThat(errors(result)).isEmpty();
        ChangePlan plan = result.change();
        assertThat(plan.main().limit()).isEqualTo(ChangeLimit.ONE);
        assertThat(plan.main().kind()).isEqualTo(StatementKind.UPDATE);
        assertThat(plan.fields()).extracting(field -> field.name()).containsExactly("changed");
        assertThat(plan.reply().status()).isEqualTo(201);
        assertThat(plan.sequence().readOnly()).isFalse();
        assertThat(result.codes()).doesNotContain("parameter-optional-bound");
    }

    @Test
    void stepsUseWhatEarlierOnesHandOn() {
        PlanFixture.Result result = compile(
                """
                post:
                  about: Steps
                  steps:
                    found: { sql: a.sql, expect: row, otherwise: { status: 422, message: "No {label}.", field: label } }
                    made: { sql: b.sql }
                    shown: { sql: a.sql, with: { id: made.key } }
                  answered-by: shown
                  answer: row
                  location: /crates/{made.key}
                  parameters: { %s, label: { in: body, type: string, required: true, example: x } }
                """.formatted(PATH),
                "select id, label from crate where id = :id",
                "insert into crate (label, of) values (:label, :found.id)");
        assertThat(errors(result)).isEmpty();
        StepSequence change = result.change().sequence();
        assertThat(change.steps()).hasSize(3);
        assertThat(change.values()).isEqualTo(4);
        assertThat(change.steps().get(0).saved()).singleElement().satisfies(saved -> {
            assertThat(saved.column()).isZero();
            assertThat(saved.type()).isEqualTo(FieldType.INTEGER);
        });
        assertThat(change.steps().get(1).saved())
                .singleElement()
                .satisfies(saved -> assertThat(saved.column()).isEqualTo(1));
        Object[] values = {1L, "x", 7L, 8L};
        assertThat(change.steps().get(1).statement().variant(values).slots()).hasSize(2);
    }

    @Test
    void aProceduresTextTellsWhatItLeavesBehind() {
        String post = "post:\n  about: Call\n  sql: a.sql\n  answer: nothing\n  parameters: { " + PATH + " }\n";
        assertThat(compile(post, "call loud(:id)").codes()).contains("routine-ends-transaction", "result-unnamed");
        assertThat(compile(post + "  transaction: routine\n  results: { one: row }\n", "call loud(:id)")
                        .codes())
                .doesNotContain("routine-ends-transaction", "result-unnamed");
        assertThat(compile(post + "  transaction: routine\n  isolation: serializable\n", "call loud(:id)")
                        .codes())
                .contains("change-unfit");
    }

    @Test
    void aCallKnowsItsArgumentsFromTheCatalog() {
        String post = """
                post:
                  about: Call
                  sql: a.sql
                  answer: row
                  parameters: { %s, tally: { in: body, type: integer, required: true, example: 1 } }
                """.formatted(PATH);
        PlanFixture.Result result = compile(post, "call move(:id, :tally, :made)");
        assertThat(errors(result)).isEmpty();
        StepPlan step = result.change().main();
        assertThat(step.columns()).extracting(Field::name).containsExactly("tally", "made", "changed");
        assertThat(step.call().outs()).extracting(StepPlan.Out::position).containsExactly(2, 3);
        assertThat(step.call().outs()).extracting(StepPlan.Out::given).containsExactly(true, false);
        assertThat(errors(compile(post, "call mve(:id, :tally, :made)")))
                .contains("routine-unfit", "Did you mean 'move'?");
        assertThat(errors(compile(post, "call move(:id, :tally)"))).contains("takes 3 arguments, and the call has 2");
        assertThat(errors(compile(post, "call move(:id, :tally, 1)"))).contains("hands 'made' back");
        assertThat(errors(compile(post, "call move(:id + :tally, :taly, :made)")))
                .contains("bind-undefined", "':taly'", "Did you mean 'tally'?");
    }

    @Test
    void aChangeComparesTheTagOfTheReadBesideIt() {
        String read = """
                get:
                  about: Read
                  sql: a.sql
                  answer: row
                  tag: { column: label }
                  modified: changed_at
                  parameters: { %s }
                """.formatted(PATH);
        String change = """
                delete:
                  about: Remove
                  sql: b.sql
                  answer: nothing
                  precondition: required
                  parameters: { %s }
                """.formatted(PATH);
        String select = "select id, label, changed_at from crate where id = :id";
        PlanFixture.Result result = compile(read + change, select, "delete from crate where id = :id");
        assertThat(errors(result)).isEmpty();
        ChangePlan plan = (ChangePlan)
                result.plan().orElseThrow().routes().getFirst().operations().get(1);
        assertThat(plan.precondition()).isEqualTo(Need.REQUIRED);
        assertThat(plan.guard().reply().tag().column()).isEqualTo(1);
        assertThat(plan.guard().reply().modified()).isEqualTo(2);
        assertThat(errors(compile(
                        read.replace("  tag: { column: label }\n  modified: changed_at\n", "") + change,
                        select,
                        "delete from crate where id = :id")))
                .contains("no get whose answer carries an entity tag");
        assertThat(errors(compile(read.replace("column: label", "column: labl"), select)))
                .contains("reply-unknown", "Did you mean 'label'?");
        assertThat(errors(compile(read.replace("modified: changed_at", "modified: label"), select)))
                .contains("holds no time");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            post   | answer: rows, order: [id]                | delete from c where id = :id              | answers with a row, a value or nothing
            get    | answer: row                              | delete from c where id = :id              | needs a query that changes nothing
            get    | answer: row, precondition: required      | select id from c where id = :id           | changes nothing, so it needs no precondition
            delete | answer: row, preview: true               | insert into c values (:id)                | how many rows it would touch
            post   | answer: row, batch: { outcome: together } | insert into c values (:id)               | A batch is a JSON array
            post   | answer: row, batch: { outcome: together } | call move(:id, :id, :made)               | A batch runs one INSERT
            put    | answer: row, tag: representation         | delete from c where id = :id              | told by its get
            put    | answer: row, status: 204                 | delete from c where id = :id              | has no content
            put    | answer: row, location: '/x/{nothing}'    | delete from c where id = :id              | 'location' names 'nothing'
            get    | answer: row, location: '/x/{id}'         | select id from c where id = :id           | makes nothing that could be elsewhere
            post   | answer: row, status: 201                 | select id from c where id = :id           | A query is answered with 200
            put    | answer: row, results: { a: rows }        | delete from c where id = :id              | what a procedure returns
            put    | answer: row, conditions: { 1: { status: 409, field: x } } | delete from c where id = :id | no parameter 'x' to blame
            put    | answer: row, conditions: { 1: { message: x } } | delete from c where id = :id        | needs a status
            put    | answer: row, changes: some               | delete from c where id = :id              | must be one, any, or a limit
            put    | answer: row, isolation: weak             | delete from c where id = :id              | cannot be 'weak'
            post   | answer: row, changes: one                | select id from c where id = :id for update | 'changes' is for
            put    | answer: row                              | delete from c where id = :gone.id         | No step 'gone' runs before
            put    | answer: row, with: { x: id }             | delete from c where id = :id              | The statement has no ':x'
            put    | answer: row, with: { id: 'a b' }         | delete from c where id = :id              | is no parameter or step
            put    | answer: row                              | create table c (id int)                   | changes the schema
            put    | answer: row                              | begin not atomic select 1; end            | a block of several statements
            put    | answer: row, reply: { headers: { ETag: changed } } | delete from c where id = :id    | no header field of an operation's own
            """)
    void whatDoesNotHoldIsSaid(String method, String keys, String sql, String message) {
        String text = method + ": { about: X, sql: a.sql, " + keys + ", parameters: { " + PATH + " } }\n";
        assertThat(errors(compile(text, sql))).contains(message);
    }

    @Test
    void aReadOnlySourceAndATableWithoutTransactionsAreNoticed() {
        String text = "put: { about: X, sql: a.sql, answer: nothing, parameters: { " + PATH + " } }\n";
        Map<String, String> files = Map.of("a.sql", "delete from scrap where id = :id");
        PlanFixture.Result result = PlanFixture.compile(HEAD + text.indent(4), files, catalog(true));
        assertThat(result.codes()).contains("source-read-only", "change-not-undone");
    }

    @Test
    void aPatchWithADefaultIsAWarning() {
        String text = "patch: { about: X, sql: a.sql, answer: nothing, parameters: { " + PATH
                + ", label: { in: body, type: string, default: x } } }\n";
        PlanFixture.Result result = compile(text, "update crate\nset label = :label\nwhere id = :id");
        assertThat(result.codes()).contains("patch-default");
    }

    @Test
    void previewsAndRehearsalsAskForTheSameRows() {
        String text = """
                delete:
                  about: X
                  sql: a.sql
                  answer: row
                  changes: { most: 5 }
                  preview: true
                  parameters: { %s, label: { in: query, type: string, example: x } }
                """.formatted(PATH);
        PlanFixture.Result result = compile(
                text,
                "delete from crate\nwhere id > :id\n  and label = :label -- when :label\nlimit 3 returning id"
                        .replace(" returning id", ""));
        assertThat(errors(result)).isEmpty();
        StatementPlan preview = result.change().preview();
        assertThat(preview.variant(new Object[] {1L, null}).sql())
                .endsWith("select count(*) from crate where id > ? limit 3");
        assertThat(preview.variant(new Object[] {1L, "x"}).slots()).containsExactly(0, 1);
        assertThat(result.change().main().statement().table()).contains("crate");
    }
}
