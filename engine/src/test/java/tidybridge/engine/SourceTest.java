package tidybridge.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.plan.Variant;
import tidybridge.core.sql.TimeLimit;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;

class SourceTest {

    private static final Duration LIMIT = OperationDefinition.DEFAULT_TIMEOUT;
    private static final int CONNECTIONS = 3;

    private Source source;

    @BeforeEach
    void open() {
        source = new Source(TestSettings.over(CONNECTIONS));
    }

    @AfterEach
    void close() {
        source.close();
    }

    private List<String> read(String sql, Object... values) throws SourceFailure {
        return readWithin(LIMIT, 0, sql, values);
    }

    private List<String> readWithin(Duration timeout, int readAhead, String sql, Object... values)
            throws SourceFailure {
        int[] slots = new int[values.length];
        for (int i = 0; i < slots.length; i++) {
            slots[i] = i;
        }
        List<String> texts = new ArrayList<>();
        String bounded = source.catalog().bounded(sql, TimeLimit.of(timeout));
        source.read(new Query(new Variant(bounded, slots), values, null, 0, readAhead, TimeLimit.of(timeout)), rows -> {
            while (rows.next()) {
                texts.add(rows.text(0));
            }
        });
        return texts;
    }

    @Test
    void valuesOfEveryTypeAreBound() throws Exception {
        assertThat(read(
                        "select concat(?, ?, ?, ?, ?)",
                        "it's",
                        12L,
                        new BigDecimal("0.10"),
                        true,
                        LocalDate.of(2031, 5, 1)))
                .containsExactly("it's120.1012031-05-01");
        assertThat(read("select coalesce(?, 'null')", (Object) null)).containsExactly("null");
    }

    @Test
    void fieldsAreDescribedByTheirRealTypes() throws Exception {
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop table if exists every_type", """
                create table every_type (
                  a_tinyint tinyint not null, a_boolean boolean, a_unsigned bigint unsigned not null, a_bigint bigint,
                  a_decimal decimal(20,4), a_double double, a_varchar varchar(10) not null, a_text text, a_enum enum('x'),
                  a_date date, a_time time(3), a_datetime datetime, a_timestamp timestamp null, a_year year, a_json json,
                  a_blob blob, a_bit bit(12), a_uuid uuid)""");
        Described described = source.catalog().describe("select * from every_type where a_bigint = ?");
        assertThat(described).isInstanceOfSatisfying(Described.Fields.class, fields -> {
            assertThat(fields.fields())
                    .extracting(field -> field.name() + " " + field.type() + (field.nullable() ? "" : " never null"))
                    .containsExactly(
                            "a_tinyint INTEGER never null",
                            "a_boolean BOOLEAN",
                            "a_unsigned DECIMAL never null",
                            "a_bigint INTEGER",
                            "a_decimal DECIMAL",
                            "a_double FLOAT",
                            "a_varchar STRING never null",
                            "a_text STRING",
                            "a_enum STRING",
                            "a_date DATE",
                            "a_time TIME",
                            "a_datetime LOCAL_DATE_TIME",
                            "a_timestamp MOMENT",
                            "a_year INTEGER",
                            "a_json JSON",
                            "a_blob BINARY",
                            "a_bit BITS",
                            "a_uuid STRING");
        });
        assertThat(FieldType.values()).hasSize(13);
    }

    @Test
    void aStatementThatCannotBePreparedIsRefusedWithTheServersReason() {
        assertThat(source.catalog().describe("select nothing from berth"))
                .isEqualTo(new Described.Refused("Unknown column 'nothing' in 'SELECT'"));
        assertThat(source.catalog().describe("set @x = 1")).isEqualTo(new Described.Fields(List.of()));
    }

    @Test
    void theServerStopsAStatementAtItsTimeLimit() throws Exception {
        SourceFailure failure = catchThrowableOfType(
                SourceFailure.class, () -> readWithin(Duration.ofMillis(300), 0, "select sleep(8) from berth"));
        assertThat(failure.kind()).isEqualTo(ConditionKind.TIMED_OUT);
        assertThat(TestDatabase.column(
                        "select info from information_schema.processlist where info like '%sleep(8) from%' "
                                + "and id <> connection_id()"))
                .isEmpty();
        assertThat(read("select 1")).containsExactly("1");
    }

    @Test
    void aSessionChangesNothing() {
        SourceFailure failure =
                catchThrowableOfType(SourceFailure.class, () -> read("delete from booking where id = 1"));
        assertThat(failure.kind()).isEqualTo(ConditionKind.OTHER);
        assertThat(failure.getMessage()).doesNotContain(TestDatabase.PASSWORD);
    }

    @Test
    void manyRowsAreReadInSmallParts() throws Exception {
        assertThat(readWithin(LIMIT, 500, "select id from lock_passage")).hasSize(6_000);
        assertThat(readWithin(LIMIT, 2, "select id from lock_passage")).hasSize(6_000);
    }

    @Test
    void aReaderThatStopsEarlyLeavesTheConnectionUsable() throws Exception {
        for (int i = 0; i < 2 * CONNECTIONS; i++) {
            source.read(
                    new Query(
                            new Variant("select id from lock_passage", new int[0]),
                            new Object[0],
                            null,
                            0,
                            2,
                            TimeLimit.of(LIMIT)),
                    rows -> {
                        assertThat(rows.next()).isTrue();
                    });
        }
        assertThat(read("select count(*) from berth")).containsExactly("80");
    }

    @Test
    void aReaderThatGivesUpEndsItsStatement() throws Exception {
        Variant endless = new Variant("select seq from seq_1_to_2000000000", new int[0]);
        for (int i = 0; i < 2 * CONNECTIONS; i++) {
            assertThatThrownBy(() ->
                            source.read(new Query(endless, new Object[0], null, 0, 500, TimeLimit.of(LIMIT)), rows -> {
                                rows.next();
                                throw new IllegalStateException("the caller hung up");
                            }))
                    .hasMessage("the caller hung up");
        }
        assertThat(read("select count(*) from berth")).containsExactly("80");
        assertThat(TestDatabase.column("select info from information_schema.processlist where info like '%seq_1_to_2%' "
                        + "and id <> connection_id()"))
                .isEmpty();
    }

    @Test
    void statementsStayPreparedAndTheLeastUsedMakeRoom() throws Exception {
        for (int i = 0; i < 3 * PreparedStatements.MOST; i++) {
            assertThat(read("select " + i + " + ?", 1L)).containsExactly(String.valueOf(i + 1));
        }
        assertThat(preparedStatements()).isLessThan((CONNECTIONS + 1) * PreparedStatements.MOST);
    }

    @Test
    void longStatementsMakeRoomSooner() throws Exception {
        for (int i = 0; i < PreparedStatements.MOST; i++) {
            read("select " + i + " + ?", 1L);
        }
        int before = preparedStatements();
        String padding = " + char_length('" + "x".repeat(10_000) + "') - 10000";
        for (int i = 0; i < PreparedStatements.MOST; i++) {
            assertThat(read("select " + i + " + ?" + padding, 1L)).containsExactly(String.valueOf(i + 1));
        }
        int fitting = (int) (PreparedStatements.MOST_CHARS / padding.length()) + 1;
        assertThat(preparedStatements() - before).isLessThanOrEqualTo(CONNECTIONS * fitting);
    }

    private static int preparedStatements() throws Exception {
        return Integer.parseInt(TestDatabase.column("select variable_value from information_schema.global_status "
                        + "where variable_name = 'prepared_stmt_count'")
                .getFirst());
    }

    @Test
    void aConnectionThatDiedIsReplacedWithoutAFailure() throws Exception {
        read("select 1");
        TestDatabase.execute("", "kill user " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        assertThat(read("select 2")).containsExactly("2");
    }

    @Test
    void whenEveryConnectionIsBusyTheFailureNamesTheNumbers() throws Exception {
        CountDownLatch busy = new CountDownLatch(CONNECTIONS);
        CountDownLatch done = new CountDownLatch(1);
        try (ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor()) {
            for (int i = 0; i < CONNECTIONS; i++) {
                threads.submit(() -> {
                    source.read(
                            new Query(
                                    new Variant("select 1", new int[0]),
                                    new Object[0],
                                    null,
                                    0,
                                    0,
                                    TimeLimit.of(LIMIT)),
                            rows -> {
                                busy.countDown();
                                awaitQuietly(done);
                            });
                    return null;
                });
            }
            assertThat(busy.await(5, TimeUnit.SECONDS)).isTrue();
            SourceFailure failure = catchThrowableOfType(SourceFailure.class, () -> read("select 1"));
            done.countDown();
            assertThat(failure.kind()).isEqualTo(ConditionKind.UNREACHABLE);
            assertThat(failure.getMessage()).contains("3 busy of 3", "wait 700 ms");
        }
    }

    @Test
    void aDatabaseThatIsGoneIsSaidAndUsedAgainWhenItIsBack() throws Exception {
        read("select 1");
        TestDatabase.without(() -> {
            for (int i = 0; i < 4; i++) {
                SourceFailure failure = catchThrowableOfType(SourceFailure.class, () -> read("select 1"));
                assertThat(failure.kind()).isEqualTo(ConditionKind.UNREACHABLE);
            }
            assertThatThrownBy(() -> source.catalog().describe("select 1")).isInstanceOf(Source.Unreachable.class);
        });
        awaitLife();
    }

    private void awaitLife() throws Exception {
        Until.holds(() -> {
            try {
                return read("select 1").equals(List.of("1"));
            } catch (SourceFailure e) {
                return false;
            }
        });
    }

    @Test
    void aServerThatHangsIsGivenUp() throws Exception {
        read("select 1");
        TestDatabase.server().freeze();
        try {
            SourceFailure failure =
                    catchThrowableOfType(SourceFailure.class, () -> readWithin(Duration.ofSeconds(5), 0, "select 1"));
            assertThat(failure.kind())
                    .as("it gives no sign of life, which a slow statement's server does")
                    .isEqualTo(ConditionKind.UNREACHABLE);
        } finally {
            TestDatabase.server().thaw();
        }
        awaitLife();
    }

    private static void awaitQuietly(CountDownLatch latch) {
        try {
            latch.await(10, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
