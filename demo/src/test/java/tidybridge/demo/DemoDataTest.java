package tidybridge.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DemoDataTest {

    @Test
    void theSameSeedGivesTheSameRows() throws Exception {
        LocalMariaDb server = TestDatabase.server();
        TestDatabase.execute("", "drop database if exists again", "create database again");
        try (Connection connection = server.connect("again")) {
            DemoData.load(connection, DemoSize.SMALL, percent -> {});
        }
        for (String table :
                new String[] {"basin", "berth", "vessel", "skipper", "booking", "lock_passage", "closure"}) {
            String sum = "checksum table waterways.%s, again.%s".formatted(table, table);
            try (Connection connection = server.connect("again");
                    Statement statement = connection.createStatement();
                    var rows = statement.executeQuery(sum)) {
                rows.next();
                long first = rows.getLong(2);
                rows.next();
                assertThat(rows.getLong(2)).as(table).isEqualTo(first).isNotZero();
            }
        }
    }

    /** A server removes at its start what an earlier one may have left in its folder for temporary tables. */
    @Test
    void aServerThatStartsLeavesTheTablesOfOthersAlone() throws Exception {
        try (Connection connection = TestDatabase.server().connect("waterways");
                Statement statement = connection.createStatement()) {
            statement.execute("create temporary table kept (id int) engine = aria");
            statement.execute("insert into kept values (1)");
            TestDatabase.start("beside").close();
            statement.execute("drop temporary table kept");
        }
    }

    @Test
    void theDataIsPlausible() throws Exception {
        assertThat(TestDatabase.column("select count(*) from berth")).containsExactly("80");
        assertThat(TestDatabase.column("select count(*) from booking")).containsExactly("1500");
        assertThat(TestDatabase.column("select count(*) from lock_passage")).containsExactly("6000");
        assertThat(TestDatabase.column("select count(*) from basin_overview")).containsExactly("5");
        assertThat(TestDatabase.column("""
                        select count(*) from booking a join booking b on b.berth_id = a.berth_id and b.id > a.id
                        where a.arrives < b.departs and a.departs > b.arrives""")).as("stays that share a night").containsExactly("0");
        assertThat(TestDatabase.column("select toll_due(1, 1) > 4")).containsExactly("1");
    }

    @Test
    void theProcedureBooksAFreeBerthAndRefusesATakenOne() throws Exception {
        try (Connection connection = TestDatabase.server().connect("waterways");
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            statement.execute("call book_berth(1, 1, '2035-01-01', '2035-01-04', @id)");
            assertThatThrownBy(() -> statement.execute("call book_berth(1, 2, '2035-01-03', '2035-01-05', @id)"))
                    .hasMessageContaining("The berth is taken from 2035-01-01 to 2035-01-04.");
            connection.rollback();
        }
    }

    @Test
    void theServicesUserMayDoWhatItsModulesNeedAndNothingElse() throws Exception {
        String url = "jdbc:mariadb://127.0.0.1:" + TestDatabase.server().port() + "/waterways?sslMode=disable";
        try (Connection connection = DriverManager.getConnection(url, DemoDatabase.SOURCE_USER, TestDatabase.PASSWORD);
                Statement statement = connection.createStatement()) {
            statement.executeQuery("select 1 from berth").close();
            for (String sql : new String[] {
                "delete from berth", "update vessel set name = 'x'", "drop table berth", "select * from mysql.user"
            }) {
                assertThatThrownBy(() -> statement.execute(sql))
                        .isInstanceOf(SQLException.class)
                        .hasMessageContaining("denied");
            }
        }
    }

    @Test
    void secretsAreKeptForTheirOwnerOnly(@TempDir Path folder) throws Exception {
        String secret = Secrets.in(folder).get("one");
        assertThat(Secrets.in(folder).get("one")).isEqualTo(secret).hasSize(32);
        assertThat(Secrets.in(folder).get("two")).isNotEqualTo(secret);
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(folder.resolve("secrets.properties"))))
                .isEqualTo("rw-------");
    }

    @Test
    void aBrokenDataDirectoryIsSaidInOneSentence(@TempDir Path folder) throws Exception {
        Path data = Files.createDirectories(folder.resolve("data"));
        Files.createFile(data.resolve("created"));
        Files.writeString(data.resolve("ibdata1"), "this is no tablespace");
        assertThatThrownBy(() -> LocalMariaDb.start(folder))
                .isInstanceOf(DemoFailure.class)
                .hasMessageStartingWith("MariaDB stopped while starting; ")
                .hasMessageContaining("mariadb.log says: ");
    }
}
