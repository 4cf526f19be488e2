package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.demo.TestDatabase;

/** The first rows of a long answer leave before the others are read, and both are of one state of the database. */
class HeadStartTest {

    private static final int ROWS = 60_000;

    private static RunningService service;

    private static final Map<String, String> STATEMENTS = Map.of(
            "plain", "select id, at_day, note from head_log",
            "joined", "select h.id, h.at_day, k.name from head_log h straight_join head_kind k on k.id = h.kind",
            "conditions",
                    "select id, at_day, note from head_log where (id > 3 or id < 0) and note in ('a', 'b', 'now()')",
            "now", "select id, at_day, note from head_log where at_day < now()",
            "elsewhere", "select id, at_day from headaway.head_log",
            "variable", "select id, at_day, note from head_log where id > coalesce(@none, 0)",
            "computed", "select id, at_day, upper(note) as note from head_log",
            "grouped", "select id, max(at_day) as at_day from head_log group by id",
            "untransactional", "select id, at_day from head_isam",
            "unsorted", "select id, at_day, note from head_log");

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        TestDatabase.execute(
                "waterways",
                "create or replace table head_kind (id int primary key, name varchar(20))",
                "insert into head_kind select seq, concat('kind ', seq) from seq_1_to_200",
                "create or replace table head_log (id int primary key, at_day date not null, note varchar(80), kind int not null,"
                        + " filler char(250) not null default '',"
                        + " key head_by_day (at_day, id))",
                "insert into head_log (id, at_day, note, kind) select seq, '2030-01-01' + interval (seq * 7919 % 3650) day, elt(1 + seq % 2, 'a', 'b'),"
                        + " 1 + seq % 2 from seq_1_to_" + ROWS,
                "create or replace table head_isam engine = MyISAM select id, at_day from head_log",
                "alter table head_isam add primary key (id), add key (at_day, id)",
                "create or replace database headaway",
                "create table headaway.head_log engine = MyISAM select id, at_day from head_log",
                "alter table headaway.head_log add primary key (id), add key (at_day, id)",
                "grant select on headaway.* to 'waterways_service'@'127.0.0.1'",
                "analyze table head_log, head_isam, head_kind");
        service.post("/desk/sources/waterways/refresh", Map.of());
        StringBuilder yaml = new StringBuilder("""
                module: headed
                version: 1.0.0
                title: Headed
                source: waterways
                public: true
                formats: csv
                page: { all: true }
                routes:
                """);
        Map<String, String> sql = new HashMap<>();
        STATEMENTS.forEach((name, statement) -> {
            sql.put(name + ".sql", statement);
            yaml.append("  /")
                    .append(name)
                    .append(": { get: { about: Rows, sql: ")
                    .append(name)
                    .append(".sql, answer: rows, order: ")
                    .append(name.equals("unsorted") ? "[note, id]" : "[at_day, id]")
                    .append(" } }\n");
        });
        HttpResponse<String> response = service.publish(yaml.toString(), sql);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute(
                "waterways",
                "drop table head_log",
                "drop table head_isam",
                "drop table head_kind",
                "revoke select on headaway.* from 'waterways_service'@'127.0.0.1'",
                "drop database headaway");
    }

    /** A statement that may say something else the second time, or whose first rows are no quicker to find, runs once. */
    @ParameterizedTest
    @CsvSource({
        "plain, 2",
        "joined, 2",
        "conditions, 2",
        "now, 1",
        "elsewhere, 1",
        "variable, 1",
        "computed, 1",
        "grouped, 1",
        "untransactional, 1",
        "unsorted, 1"
    })
    void onlyWhatIsSureIsReadInTwo(String route, int statements) throws Exception {
        TestDatabase.execute(
                "",
                "set global log_output = 'TABLE'",
                "truncate table mysql.general_log",
                "set global general_log = 1");
        List<String> found;
        try {
            found = ids(service.get("/api/headed/v1/" + route + "?limit=all&format=csv"));
        } finally {
            TestDatabase.execute("", "set global general_log = 0");
        }
        assertThat(found)
                .isEqualTo(TestDatabase.column("select id from (" + STATEMENTS.get(route) + ") as x order by "
                        + (route.equals("unsorted") ? "note, id" : "at_day, id")));
        assertThat(TestDatabase.column("select count(*) from mysql.general_log where command_type = 'Execute'"
                        + " and argument like '%headed/v1 GET /" + route + " %' and argument not like '%explain%'"))
                .containsExactly(String.valueOf(statements));
    }

    private static List<String> ids(HttpResponse<String> csv) {
        assertThat(csv.statusCode()).as(csv.body()).isEqualTo(200);
        List<String> ids = new ArrayList<>();
        List<String> lines = csv.body().lines().toList();
        for (String row : lines.subList(1, lines.size())) {
            ids.add(row.substring(0, row.indexOf(',')));
        }
        return ids;
    }

    /** What others write while the answer leaves is not in it, and nothing is missing. */
    @Test
    void theWholeAnswerIsOfOneMoment() throws Exception {
        List<String> expected = TestDatabase.column("select id from head_log order by at_day, id");
        try (Wire wire = Wire.narrow(service.port())) {
            wire.send(
                    "GET /api/headed/v1/plain?limit=all&format=csv HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n");
            assertThat(wire.read(100)).isPositive();
            TestDatabase.execute(
                    "waterways",
                    "insert into head_log (id, at_day, note, kind) select id + 1000000, at_day, note, kind from head_log where id % 3 = 0",
                    "update head_log set at_day = '2045-01-01' where id < 100",
                    "delete from head_log where id between 15000 and 16000");
            String answer = wire.answer();
            List<String> found = Wire.body(answer)
                    .lines()
                    .filter(line -> line.matches("\\d+,\\d{4}-.*"))
                    .map(line -> line.substring(0, line.indexOf(',')))
                    .toList();
            assertThat(found).hasSize(expected.size()).isEqualTo(expected);
            assertThat(answer).contains("Page-End: rows=" + ROWS + ", last");
        } finally {
            TestDatabase.execute("waterways", "delete from head_log where id > 1000000");
        }
    }
}
