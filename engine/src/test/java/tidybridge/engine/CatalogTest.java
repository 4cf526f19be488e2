package tidybridge.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Access;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.FirstStatement;
import tidybridge.core.catalog.ForeignKey;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;
import tidybridge.core.definition.SourceDefinition;
import tidybridge.core.sql.Dialect;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;

class CatalogTest {

    private static Source source;
    private static Contents contents;

    @BeforeAll
    static void read() {
        source = new Source(TestSettings.over(2));
        contents = source.catalog().contents().orElseThrow();
    }

    @AfterAll
    static void close() {
        source.close();
    }

    private static Relation relation(String name) {
        return contents.relation(name).orElseThrow();
    }

    private static Column column(String table, String name) {
        return relation(table).column(name).orElseThrow();
    }

    @Test
    void whoeverAsksAtOnceIsToldWhatWasReadOnce() throws Exception {
        try (Source asked = new Source(TestSettings.over(2));
                ExecutorService asking = Executors.newFixedThreadPool(8)) {
            Callable<Contents> look = () -> asked.catalog().contents().orElseThrow();
            Set<Contents> read = Collections.newSetFromMap(new IdentityHashMap<>());
            for (Future<Contents> one : asking.invokeAll(Collections.nCopies(8, look))) {
                read.add(one.get());
            }
            assertThat(read).hasSize(1);
            asked.renew();
            assertThat(read).doesNotContain(look.call());
        }
    }

    @Test
    void tablesHaveTheirColumnsWithFullTypes() {
        Relation berth = relation("BERTH");
        assertThat(berth.kind()).isEqualTo(Relation.Kind.TABLE);
        assertThat(berth.rows()).isPositive();
        assertThat(berth.transactional()).isTrue();
        assertThat(berth.columns())
                .extracting(Column::name)
                .containsExactly(
                        "id",
                        "basin_id",
                        "berth_no",
                        "length_m",
                        "width_m",
                        "has_power",
                        "has_water",
                        "nightly_rate",
                        "equipment");
        Column id = column("berth", "id");
        assertThat(id.numbered()).isTrue();
        assertThat(id.type().unsigned()).isTrue();
        assertThat(column("berth", "length_m").type().precision()).isEqualTo(5);
        assertThat(column("berth", "length_m").type().scale()).isEqualTo(2);
        assertThat(column("berth", "berth_no").type().length()).isEqualTo(8);
        assertThat(column("berth", "berth_no").type().collation()).startsWith("utf8mb4");
        assertThat(column("berth", "equipment").type().base()).isEqualTo("json");
        assertThat(column("berth", "equipment").nullable()).isTrue();
        assertThat(column("booking", "status").type().members())
                .containsExactly("requested", "confirmed", "cancelled", "expired");
        assertThat(column("booking", "departs").about()).isEqualTo("the morning the berth is free again");
        assertThat(column("booking", "booked_at").defaultText()).isEqualTo("current_timestamp()");
    }

    @Test
    void keysForeignKeysAndIndexesAreRead() {
        assertThat(relation("berth").indexes())
                .contains(
                        new Index("PRIMARY", true, true, List.of("id")),
                        new Index("berth_in_basin", true, false, List.of("basin_id", "berth_no")),
                        new Index("berth_by_length", false, false, List.of("length_m")));
        assertThat(relation("berth").keys()).extracting(Index::name).containsExactly("PRIMARY", "berth_in_basin");
        ForeignKey key = relation("berth").foreignKeys().getFirst();
        assertThat(key.target()).isEqualTo("basin");
        assertThat(key.columns()).containsExactly("basin_id");
        assertThat(key.targets()).containsExactly("id");
    }

    @Test
    void viewsAndRoutinesAreRead() {
        Relation view = relation("basin_overview");
        assertThat(view.kind()).isEqualTo(Relation.Kind.VIEW);
        assertThat(view.rows()).isEqualTo(-1);
        assertThat(view.about()).isEmpty();
        assertThat(view.definition()).contains("count(");
        assertThat(relation("berth").definition()).isNull();
        Routine toll = contents.routine("toll_due").orElseThrow();
        assertThat(toll.kind()).isEqualTo(Routine.Kind.FUNCTION);
        assertThat(toll.returns()).isNotNull();
        assertThat(toll.returns().text()).isEqualTo("decimal(8,2)");
        assertThat(toll.access()).isEqualTo(Routine.Access.READS_DATA);
        Routine booking = contents.routine("book_berth").orElseThrow();
        assertThat(booking.parameters())
                .extracting(
                        Routine.Parameter::name,
                        Routine.Parameter::mode,
                        parameter -> parameter.type().text())
                .startsWith(org.assertj.core.groups.Tuple.tuple("the_berth", Routine.Mode.IN, "int(10) unsigned"))
                .endsWith(org.assertj.core.groups.Tuple.tuple("the_booking", Routine.Mode.OUT, "int(10) unsigned"));
    }

    @Test
    void aStatementToBeginWithCanBePrepared() {
        for (Relation relation : contents.relations()) {
            String sql = new FirstStatement(Dialect.usual()).of(relation).replaceAll(":\\w+", "?");
            assertThat(source.catalog().describe(sql))
                    .as(sql)
                    .isInstanceOf(tidybridge.core.catalog.Described.Fields.class);
        }
        assertThat(new FirstStatement(Dialect.usual())
                        .of(contents.routine("toll_due").orElseThrow()))
                .isEqualTo("select toll_due(:theVessel, :theLock) as value\n");
    }

    @Test
    void whatChangedIsSeenAfterARefreshAndNotBefore() throws Exception {
        TestDatabase.execute("waterways", "create table if not exists late_arrival (id int primary key)");
        try {
            assertThat(source.catalog().contents().orElseThrow().relation("late_arrival"))
                    .isEmpty();
            assertThat(source.refresh().relation("late_arrival")).isPresent();
            assertThat(source.catalog().contents().orElseThrow().relation("late_arrival"))
                    .isPresent();
        } finally {
            TestDatabase.execute("waterways", "drop table late_arrival");
            source.refresh();
        }
    }

    @Test
    void aSchemaOfAThousandTablesIsReadInSeconds() throws Exception {
        TestDatabase.execute("", "create or replace schema crowded");
        String[] statements = new String[1000];
        for (int i = 0; i < statements.length; i++) {
            statements[i] = "create table t" + i
                    + " (id int unsigned primary key, name varchar(60) not null comment 'its name',"
                    + " amount decimal(9,2), key by_name (name)) engine=aria";
        }
        TestDatabase.execute("crowded", statements);
        TestDatabase.execute("", "grant select on crowded.* to waterways_service@'127.0.0.1'");
        try (Source crowded = new Source(
                TestSettings.with("127.0.0.1", TestDatabase.server().port(), "crowded", TestDatabase.PASSWORD, 2))) {
            Instant start = Instant.now();
            Contents read = crowded.catalog().contents().orElseThrow();
            assertThat(read.relations()).hasSize(1000);
            assertThat(read.relation("t77").orElseThrow().indexes()).hasSize(2);
            assertThat(read.relation("t77").orElseThrow().transactional()).isFalse();
            // generous: the number is for the bench; a query for each table would take far longer
            assertThat(Duration.between(start, Instant.now())).isLessThan(Until.BOUND);
        } finally {
            TestDatabase.execute("", "drop schema crowded");
        }
    }

    @Test
    void thePlanOfAQueryIsToldInSentences() {
        List<Access> accesses =
                source.catalog().explain("select * from booking where berth_id = ? order by status", List.of(17L));
        assertThat(accesses).singleElement().satisfies(access -> {
            assertThat(access.way()).isEqualTo(Access.Way.EQUAL);
            assertThat(access.index()).isEqualTo("booking_by_berth");
            assertThat(access.sorts()).isTrue();
            assertThat(access.sentence())
                    .startsWith("booking: the rows with one value by the index booking_by_berth (about ")
                    .endsWith(", then sorted");
        });
        assertThat(source.catalog().explain("select * from berth where has_power = ?", List.of(true)))
                .singleElement()
                .extracting(Access::way)
                .isEqualTo(Access.Way.WHOLE_TABLE);
        assertThat(source.catalog().explain("no query at all", List.of())).isEmpty();
    }

    @Test
    void theProbeNamesTheStepThatFails() {
        int port = TestDatabase.server().port();
        String secret = TestDatabase.PASSWORD;
        assertThat(SourceProbe.run(TestSettings.over(1))).hasSize(6).allMatch(SourceProbe.Step::passed);
        failsAt(SourceProbe.What.NAME, TestSettings.with("no-such-machine.invalid", port, "waterways", secret, 1));
        failsAt(SourceProbe.What.PORT, TestSettings.with("127.0.0.1", 1, "waterways", secret, 1));
        failsAt(SourceProbe.What.CREDENTIALS, TestSettings.with("127.0.0.1", port, "waterways", "wrong", 1));
        failsAt(SourceProbe.What.SCHEMA, TestSettings.with("127.0.0.1", port, "mysql", secret, 1));
        SourceSettings plain = TestSettings.over(1);
        failsAt(
                SourceProbe.What.TLS,
                new SourceSettings(
                        plain.name(),
                        plain.kind(),
                        plain.about(),
                        plain.host(),
                        plain.port(),
                        plain.schema(),
                        plain.user(),
                        plain.secret(),
                        tidybridge.core.definition.Transport.VERIFIED,
                        null,
                        true,
                        1,
                        plain.patience(),
                        plain.timeout(),
                        SourceDefinition.DEFAULT_ALL_TIMEOUT));
    }

    @Test
    void aUserWhoSeesNothingIsToldSo() throws Exception {
        TestDatabase.execute(
                "", "create or replace schema bare", "grant select on bare.* to waterways_service@'127.0.0.1'");
        try {
            failsAt(
                    SourceProbe.What.PRIVILEGE,
                    TestSettings.with("127.0.0.1", TestDatabase.server().port(), "bare", TestDatabase.PASSWORD, 1));
        } finally {
            TestDatabase.execute("", "drop schema bare");
        }
    }

    private static void failsAt(SourceProbe.What what, SourceSettings settings) {
        List<SourceProbe.Step> steps = SourceProbe.run(settings);
        assertThat(steps.getLast().passed()).isFalse();
        assertThat(steps.getLast().what()).as(steps.getLast().detail()).isEqualTo(what);
        assertThat(steps.getLast().detail()).doesNotContain(settings.secret());
    }

    @Test
    void aSourceThatIsGoneIsUnreachable() {
        try (Source gone = new Source(TestSettings.with("127.0.0.1", 1, "waterways", "x", 1))) {
            assertThatThrownBy(() -> gone.catalog().contents()).isInstanceOf(Source.Unreachable.class);
        }
    }
}
