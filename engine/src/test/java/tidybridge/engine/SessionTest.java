package tidybridge.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.definition.SourceDefinition;
import tidybridge.core.plan.Variant;
import tidybridge.core.sql.TimeLimit;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.engine.TransactionSettings.Ending;

/** Whatever routines, triggers and failures leave in a session, the next caller finds it as it was opened. */
class SessionTest {

    private static final TransactionSettings KEPT =
            new TransactionSettings(null, false, Duration.ofSeconds(10), Ending.COMMIT);
    private static final Object[] NO_VALUES = {};

    /** Everything a session shows of itself, but what changes by itself with every statement. */
    private static final String STATE = """
            select concat(variable_name, '=', session_value) from information_schema.system_variables
             where session_value is not null and variable_name not in ('timestamp', 'rand_seed1', 'rand_seed2', 'last_insert_id', 'identity', 'in_transaction',
                   'error_count', 'warning_count', 'pseudo_thread_id', 'last_gtid', 'insert_id')
               and variable_name not like 'gtid%'
            union all select concat('schema=', database())
            union all select concat('left=', coalesce(@left, 'nothing'))
            union all select concat('lock=', coalesce(is_used_lock('held') = connection_id(), 'nobody'))
            union all select concat('transaction=', @@in_transaction)
            union all select concat('charset=', charset('ü'), '/', @@collation_connection)
            order by 1""";

    private static Source source;

    @BeforeAll
    static void open() throws Exception {
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "create or replace table left_over (id int primary key)",
                "grant create temporary tables, insert on waterways.* to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        SourceSettings one = TestSettings.over(1);
        source = new Source(new SourceSettings(
                one.name(),
                one.kind(),
                one.about(),
                one.host(),
                one.port(),
                one.schema(),
                one.user(),
                one.secret(),
                one.transport(),
                null,
                false,
                1,
                one.patience(),
                one.timeout(),
                SourceDefinition.DEFAULT_ALL_TIMEOUT));
        state();
    }

    @AfterAll
    static void close() throws Exception {
        source.close();
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "drop table left_over",
                "drop procedure if exists leaves",
                "drop function if exists leaving",
                "revoke create temporary tables, insert on waterways.* from " + DemoDatabase.SOURCE_USER
                        + "@'127.0.0.1'");
    }

    private static List<String> state() throws SourceFailure {
        List<String> lines = new ArrayList<>();
        read(STATE, lines);
        return lines;
    }

    /** Both ways, so that a failure shows the differing lines alone. */
    private static void assertUnchanged(List<String> before) throws SourceFailure {
        List<String> now = state();
        List<String> gone = new ArrayList<>(before);
        gone.removeAll(now);
        now.removeAll(before);
        assertThat(now).as("instead of %s", gone).isEmpty();
    }

    private static void read(String sql, List<String> lines) throws SourceFailure {
        Query query =
                new Query(new Variant(sql, new int[0]), NO_VALUES, null, 0, 0, TimeLimit.of(Duration.ofSeconds(10)));
        source.read(query, rows -> {
            while (rows.next()) {
                lines.add(String.valueOf(rows.text(0)));
            }
        });
    }

    private static void call() throws SourceFailure {
        source.transact(
                KEPT,
                transaction -> transaction.call(
                        new Variant("call leaves()", new int[0]), NO_VALUES, List.of(), (index, fields, rows) -> {
                            while (rows.next()) {
                                rows.text(0);
                            }
                        }));
    }

    private static void routine(String kind, String body, String ending) throws Exception {
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "create or replace " + kind + " modifies sql data sql security invoker begin " + body + "; " + ending
                        + " end",
                "grant execute on " + kind.replaceFirst("\\(.*", "") + " to " + DemoDatabase.SOURCE_USER
                        + "@'127.0.0.1'");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "set autocommit = 0",
                "set time_zone = '+05:00'",
                "set max_statement_time = 0",
                "set tx_read_only = 1",
                "set session transaction isolation level read uncommitted",
                "commit; set transaction read only",
                "do get_lock('held', 0)",
                "set @left = 'something'",
                "create temporary table berth (id int)",
                "prepare kept from 'select 1'",
                "execute immediate 'use information_schema'",
                "set names latin1",
                "set sql_mode = 'ANSI_QUOTES'",
                "set innodb_lock_wait_timeout = 1",
                "set foreign_key_checks = 0",
                "set group_concat_max_len = 4",
                "set sql_select_limit = 1",
                "set default_week_format = 3",
                "set lc_time_names = 'de_DE'",
                "start transaction",
                "start transaction with consistent snapshot; insert into left_over values (1); rollback",
                "savepoint mine"
            })
    void nothingAProcedureLeavesIsFeltByTheNext(String body) throws Exception {
        List<String> before = state();
        routine("procedure leaves()", body, "");
        call();
        assertUnchanged(before);
        assertTablesAreThere();
        routine("procedure leaves()", body, "signal sqlstate '45000' set message_text = 'no';");
        assertThatThrownBy(SessionTest::call).isInstanceOf(SourceFailure.class);
        assertUnchanged(before);
        assertTablesAreThere();
    }

    /** A temporary table would hide one of the same name. */
    private static void assertTablesAreThere() throws SourceFailure {
        List<String> berths = new ArrayList<>();
        read("select count(*) from berth", berths);
        assertThat(berths).doesNotContain("0");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "set time_zone = '+05:00'",
                "set max_statement_time = 0",
                "do get_lock('held', 0)",
                "set @left = 'something'",
                "set sql_select_limit = 1",
                "set foreign_key_checks = 0"
            })
    void nothingAFunctionOrATriggerLeavesIsFeltByTheNext(String body) throws Exception {
        List<String> before = state();
        routine("function leaving() returns int", body, "return 1;");
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "create or replace view left_view as select leaving() as it",
                "grant select on left_view to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        source.refresh();
        for (String query : List.of("select leaving()", "select it from left_view")) {
            read(query + " /* " + body.hashCode() + " */", new ArrayList<>());
            assertUnchanged(before);
        }
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop view left_view", "delete from left_over");
        if (!body.contains("get_lock")) {
            TestDatabase.execute(
                    DemoDatabase.SOURCE_SCHEMA,
                    "create or replace trigger leaving before insert on left_over for each row begin " + body
                            + "; end");
            Variant insert = new Variant("insert into left_over values (1), (2)", new int[0]);
            source.transact(KEPT, transaction -> transaction.change(insert, NO_VALUES));
            TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop trigger leaving");
            assertUnchanged(before);
        }
    }

    @Test
    void whatARefusedRowLeavesIsGoneThoughTheRestIsKept() throws Exception {
        List<String> before = state();
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "create or replace trigger leaving before insert on left_over for each row begin set @left = 'it';"
                        + " signal sqlstate '45000' set message_text = 'no'; end");
        Variant insert = new Variant("insert into left_over values (9)", new int[0]);
        source.transact(
                KEPT,
                transaction -> assertThatThrownBy(() -> transaction.change(insert, NO_VALUES))
                        .isInstanceOf(SourceFailure.class));
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop trigger leaving");
        assertUnchanged(before);
    }

    @Test
    void aSessionReadsQuotesAndRefusesValuesAlikeWhateverTheServersMode() throws Exception {
        TestDatabase.execute("", "set global sql_mode = 'ANSI,NO_BACKSLASH_ESCAPES'");
        try (Source other = new Source(TestSettings.writable())) {
            List<String> read = new ArrayList<>();
            Query query = new Query(
                    new Variant("select \"a\\'b\" union all select @@sql_mode", new int[0]),
                    NO_VALUES,
                    null,
                    0,
                    0,
                    TimeLimit.of(Duration.ofSeconds(10)));
            other.read(query, rows -> {
                while (rows.next()) {
                    read.add(String.valueOf(rows.text(0)));
                }
            });
            assertThat(read.getFirst()).isEqualTo("a'b");
            assertThat(read.getLast()).contains("STRICT_TRANS_TABLES", "PIPES_AS_CONCAT");
        } finally {
            TestDatabase.execute("", "set global sql_mode = default");
        }
    }
}
