package tidybridge.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.definition.Isolation;
import tidybridge.core.plan.Variant;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.engine.TransactionSettings.Ending;

/** Transactions on a real database: kept, undone, tried again, and what their failures are called. */
class TransactionTest {

    private static final TransactionSettings KEPT =
            new TransactionSettings(null, false, Duration.ofSeconds(10), Ending.COMMIT);
    private static final TransactionSettings UNDONE =
            new TransactionSettings(Isolation.REPEATABLE_READ, false, Duration.ofSeconds(10), Ending.ROLL_BACK);
    private static final Variant INSERT = new Variant("insert into coin (face) values (?)", new int[] {0});

    private static Source source;

    @BeforeAll
    static void open() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table coin (id int not null auto_increment primary key, face varchar(5) not null,"
                        + " worth tinyint unsigned null, born date null, unique key one_face (face), constraint worth_some check (worth > 0))",
                "grant insert, update, delete on waterways.coin to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        source = new Source(TestSettings.writable());
    }

    @AfterAll
    static void close() throws Exception {
        assertThat(source.busy()).isZero();
        source.close();
        TestDatabase.execute("waterways", "drop table coin");
    }

    @BeforeEach
    void empty() throws Exception {
        TestDatabase.execute("waterways", "delete from coin");
    }

    private static List<String> faces() throws Exception {
        return TestDatabase.column("select face from coin order by face");
    }

    private static @Nullable Object[] row(String face) {
        return new @Nullable Object[] {face};
    }

    @Test
    void whatIsDoneIsKeptOrUndoneAsAWhole() throws Exception {
        source.transact(KEPT, transaction -> {
            Transaction.Changed first = transaction.change(INSERT, row("a"));
            Transaction.Changed second = transaction.change(INSERT, row("b"));
            assertThat(first.rows()).isEqualTo(1);
            assertThat(second.key()).isEqualTo(first.key() + 1);
        });
        assertThatThrownBy(() -> source.transact(KEPT, transaction -> {
                    transaction.change(INSERT, row("c"));
                    throw new IllegalStateException("no");
                }))
                .hasMessage("no");
        source.transact(UNDONE, transaction -> transaction.change(INSERT, row("d")));
        assertThat(faces()).containsExactly("a", "b");
    }

    @Test
    void nothingCanCommitInsideARehearsal() throws Exception {
        SourceFailure failure = catchThrowableOfType(
                SourceFailure.class,
                () -> source.transact(UNDONE, transaction -> {
                    transaction.change(INSERT, row("a"));
                    transaction.execute("commit");
                }));
        assertThat(failure.condition().number()).isEqualTo(1399);
        assertThat(faces()).isEmpty();
        assertThat(TestDatabase.column("select count(*) from information_schema.innodb_trx"))
                .containsExactly("0");
    }

    @Test
    void aReadOnlyTransactionCannotWrite() {
        TransactionSettings reading = new TransactionSettings(null, true, Duration.ofSeconds(10), Ending.COMMIT);
        assertThatThrownBy(() -> source.transact(reading, transaction -> transaction.change(INSERT, row("a"))))
                .isInstanceOf(SourceFailure.class)
                .hasMessageContaining("READ ONLY");
    }

    @Test
    void aReadOnlySourceStaysOneWhateverATransactionSays() {
        try (Source reading = new Source(TestSettings.over(2))) {
            for (TransactionSettings wanted : List.of(KEPT, UNDONE)) {
                assertThatThrownBy(() -> reading.transact(wanted, transaction -> transaction.change(INSERT, row("a"))))
                        .isInstanceOf(SourceFailure.class)
                        .hasMessageContaining("READ ONLY");
            }
        }
    }

    @Test
    void theTimeLimitIsForAllStatementsTogether() {
        TransactionSettings brief = new TransactionSettings(null, false, Duration.ofMillis(300), Ending.COMMIT);
        Variant slow = new Variant("select sleep(0.2)", new int[0]);
        SourceFailure failure = catchThrowableOfType(
                SourceFailure.class,
                () -> source.transact(brief, transaction -> {
                    for (int i = 0; i < 3; i++) {
                        transaction.read(slow, new Object[0], 0, rows -> {});
                    }
                }));
        assertThat(failure.kind()).isEqualTo(ConditionKind.TIMED_OUT);
    }

    @Test
    void aBatchTellsWhichRowIsToBlameAndKeepsNoneOfIt() throws Exception {
        List<@Nullable Object[]> rows = new ArrayList<>();
        for (int i = 0; i < 1_200; i++) {
            rows.add(row("f" + i));
        }
        rows.set(1_100, row("f3"));
        Transaction.RowRefused refused = catchThrowableOfType(
                Transaction.RowRefused.class,
                () -> source.transact(KEPT, transaction -> transaction.changeAll(INSERT, rows, 40)));
        assertThat(refused.row()).isEqualTo(1_140);
        assertThat(refused.failure().kind()).isEqualTo(ConditionKind.DUPLICATE);
        assertThat(faces()).isEmpty();
        rows.set(1_100, row("g"));
        source.transact(
                KEPT,
                transaction -> assertThat(transaction.changeAll(INSERT, rows, 0))
                        .hasSize(1_200)
                        .containsOnly(1));
        assertThat(faces()).hasSize(1_200);
    }

    @Test
    void aDeadlockIsTriedAgainFromItsStart() throws Exception {
        TestDatabase.execute("waterways", "insert into coin (id, face) values (1, 'a'), (2, 'b')");
        AtomicInteger runs = new AtomicInteger();
        Thread other = Thread.ofVirtual().start(() -> turn(2, 1, runs));
        turn(1, 2, runs);
        other.join();
        assertThat(runs.get()).as("one of the two ran twice").isGreaterThan(2);
        assertThat(TestDatabase.column("select worth from coin")).containsExactly("2", "2");
    }

    private static void turn(int first, int second, AtomicInteger runs) {
        Variant more = new Variant("update coin set worth = ifnull(worth, 0) + 1 where id = ?", new int[] {0});
        try {
            source.transact(KEPT, transaction -> {
                runs.incrementAndGet();
                transaction.change(more, new @Nullable Object[] {(long) first});
                transaction.read(new Variant("select sleep(0.3)", new int[0]), new Object[0], 0, rows -> {});
                transaction.change(more, new @Nullable Object[] {(long) second});
            });
        } catch (SourceFailure e) {
            throw new IllegalStateException(e);
        }
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            insert into coin (face) values ('one')                                | DUPLICATE     | one_face
            insert into coin (id, face) values (1, 'x')                           | DUPLICATE     | PRIMARY
            insert into coin (face, worth) values ('x', 0)                        | CHECK_FAILED  | worth_some
            insert into coin (face, worth) values ('x', 300)                      | OUT_OF_RANGE  | worth
            insert into coin (face, worth) values ('x', 'y')                      | WRONG_FORM    | worth
            insert into coin (face, born) values ('x', '2031-02-30')              | WRONG_FORM    | born
            insert into coin (face) values ('too long')                           | TOO_LONG      | face
            insert into coin (face) values (null)                                 | VALUE_MISSING | face
            insert into coin (worth) values (1)                                   | VALUE_MISSING | face
            insert into booking (berth_id, vessel_id, arrives, departs, status) values (0, 1, '2031-01-01', '2031-01-02', 'expired') | REFERENCE_MISSING | booking_ibfk_1
            delete from booking where id in (select id from nothing_here)         | OTHER         |
            delete from berth                                                     | DENIED        |
            call book_berth(1, 1, '2031-01-02', '2031-01-01', @x)                 | SIGNALLED     |
            """)
    void conditionsAreToldApart(String sql, ConditionKind kind, String name) throws Exception {
        TestDatabase.execute("waterways", "insert into coin (id, face) values (1, 'one')");
        SourceFailure failure = catchThrowableOfType(
                SourceFailure.class, () -> source.transact(KEPT, transaction -> transaction.execute(sql)));
        Condition condition = failure.condition();
        assertThat(condition.kind()).as(failure.getMessage()).isEqualTo(kind);
        if (name != null) {
            assertThat(condition.name()).isEqualTo(name);
        }
        assertThat(condition.words().isEmpty()).isEqualTo(kind != ConditionKind.SIGNALLED);
    }
}
