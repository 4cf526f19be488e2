package tidybridge.engine.mariadb;

import java.io.IOException;
import java.net.Socket;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.Collections;
import java.util.Map;
import java.util.Properties;
import java.util.WeakHashMap;
import org.mariadb.jdbc.Driver;
import org.mariadb.jdbc.client.Client;
import org.mariadb.jdbc.message.ClientMessage;
import org.mariadb.jdbc.message.client.ChangeDbPacket;
import org.mariadb.jdbc.message.client.QueryPacket;
import org.mariadb.jdbc.message.client.ResetPacket;
import org.mariadb.jdbc.util.constants.ServerStatus;
import tidybridge.core.definition.Isolation;
import tidybridge.engine.Sessions;
import tidybridge.engine.SourceSettings;
import tidybridge.engine.TransactionSettings;

/**
 * MariaDB's sessions. Statements are prepared on the server. A rehearsal runs in a branch of a distributed transaction, in which no
 * statement and no procedure can commit.
 */
final class MariaDbSessions implements Sessions {

    /** Modes that read a text in double quotes as a name, or a backslash as any other letter, and the combinations that bring them. */
    private static final String FOREIGN_MODES =
            "ANSI_QUOTES|NO_BACKSLASH_ESCAPES|ANSI|ORACLE|MSSQL|DB2|POSTGRESQL|MAXDB";

    /** Of a text's sort key; the server's usual 1,024 are fewer than the longest texts that pages may be ordered by need. */
    private static final int SORTED_BYTES = 16_384;

    private final Driver driver = new Driver();
    private final Map<Connection, Socket> sockets = Collections.synchronizedMap(new WeakHashMap<>());

    @Override
    public Connection open(SourceSettings settings, Duration limit, Duration grace) throws SQLException {
        Properties properties = properties(settings);
        properties.put("connectTimeout", String.valueOf(settings.patience().toMillis()));
        properties.put("useServerPrepStmts", "true");
        properties.put("prepStmtCacheSize", "500");
        properties.put("socketTimeout", String.valueOf(limit.plus(grace).toMillis()));
        Connection connection = connect(settings, settings.schema(), properties);
        try {
            run(connection, asOpened(settings, limit));
            return connection;
        } catch (SQLException e) {
            connection.close();
            throw e;
        }
    }

    /**
     * Everything that a session of ours does not take as the server has it. The server's own habits of reading SQL stay, except those that
     * read quotes in another way than our lexer, and a value that does not fit its column is always refused.
     */
    private static String asOpened(SourceSettings settings, Duration limit) {
        return "set names utf8mb4, autocommit=1, time_zone='+00:00', session_track_state_change=1,"
                + " max_sort_length=" + SORTED_BYTES + ", session_track_system_variables='character_set_client',"
                + " sql_mode=concat('STRICT_TRANS_TABLES,IGNORE_SPACE,',regexp_replace(@@global.sql_mode,'(^|,)("
                + FOREIGN_MODES
                + ")(?=,|$)','')), tx_read_only=" + (settings.readOnly() ? 1 : 0) + ", max_statement_time="
                + seconds(limit)
                + ", innodb_lock_wait_timeout=" + lockWaitSeconds(limit);
    }

    @Override
    public boolean isTouched(Connection connection) {
        int status = ((org.mariadb.jdbc.Connection) connection).getContext().getServerStatus();
        return (status & ServerStatus.SERVER_SESSION_STATE_CHANGED) != 0;
    }

    @Override
    public boolean isInTransaction(Connection connection) {
        int status = ((org.mariadb.jdbc.Connection) connection).getContext().getServerStatus();
        return (status & ServerStatus.IN_TRANSACTION) != 0;
    }

    @Override
    public void renew(Connection connection, SourceSettings settings, Duration limit) throws SQLException {
        Client client = ((org.mariadb.jdbc.Connection) connection).getClient();
        // one journey for all three; the schema is chosen without a look, because the driver is not told what a
        // procedure chose
        ClientMessage[] messages = {
            ResetPacket.INSTANCE, new ChangeDbPacket(settings.schema()), new QueryPacket(asOpened(settings, limit))
        };
        client.executePipeline(
                messages, null, 0, 0, ResultSet.CONCUR_READ_ONLY, ResultSet.TYPE_FORWARD_ONLY, false, false);
        client.getContext().setDatabase(settings.schema());
        client.reset();
    }

    @Override
    public Connection enter(SourceSettings settings, Duration limit) throws SQLException {
        Properties properties = properties(settings);
        properties.setProperty("connectTimeout", String.valueOf(limit.toMillis()));
        properties.setProperty("socketTimeout", String.valueOf(limit.toMillis()));
        Connection connection = connect(settings, "", properties);
        connection.setReadOnly(true);
        return connection;
    }

    private Connection connect(SourceSettings settings, String schema, Properties properties) throws SQLException {
        String url = "jdbc:mariadb://" + settings.host() + ":" + settings.port() + "/" + schema;
        Connection connection = driver.connect(url, properties);
        if (connection == null) {
            throw new SQLException("the driver does not know " + url);
        }
        Socket socket = Sockets.last();
        if (socket != null) {
            sockets.put(connection, socket);
        }
        return connection;
    }

    private static Properties properties(SourceSettings settings) {
        Properties properties = new Properties();
        properties.put("user", settings.user());
        properties.put("password", settings.secret());
        properties.put("socketFactory", Sockets.class.getName());
        properties.put("connectionTimeZone", "UTC");
        properties.put("forceConnectionTimeZoneToSession", "true");
        properties.put(
                "sslMode",
                switch (settings.transport()) {
                    case VERIFIED -> "verify-full";
                    case ENCRYPTED -> "trust";
                    case PLAIN -> "disable";
                });
        if (settings.certificate() != null) {
            properties.put("serverSslCert", settings.certificate().toString());
        }
        return properties;
    }

    /** Shorter than a statement's limit, so that a caller is told that others hold the rows, and not that the statement is slow. */
    private static long lockWaitSeconds(Duration limit) {
        return Math.max(1, limit.toSeconds() / 2);
    }

    private static double seconds(Duration limit) {
        return limit.toMillis() / 1000.0;
    }

    @Override
    public void chooseSchema(Connection connection, String schema) throws SQLException {
        connection.setCatalog(schema);
    }

    @Override
    public String encryption(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("show session status like 'Ssl_version'")) {
            return row.next() ? row.getString(2) : "an unknown protocol";
        }
    }

    @Override
    public String bounded(String sql, Duration limit) {
        return MariaDbCatalog.LIMIT_BEGINS + "max_statement_time=" + seconds(limit) + MariaDbCatalog.LIMIT_ENDS + sql;
    }

    @Override
    public void begin(Connection connection, TransactionSettings wanted, boolean readsOnly, String branch)
            throws SQLException {
        Isolation isolation = wanted.isolation();
        String access = readsOnly ? "read only" : "read write";
        switch (wanted.ending()) {
            case COMMIT -> {
                if (isolation != null) {
                    run(connection, "set transaction isolation level " + isolation.sql());
                }
                run(connection, "start transaction " + access);
            }
            case ITS_OWN -> {}
            case ROLL_BACK -> {
                // a branch cannot say when it starts that it only reads, so it is said before
                if (isolation != null) {
                    run(connection, "set transaction isolation level " + isolation.sql() + ", " + access);
                }
                run(connection, "xa start '" + branch + "'");
            }
        }
    }

    @Override
    public void cut(Connection connection) {
        Socket socket = sockets.get(connection);
        if (socket != null) {
            try {
                socket.close();
            } catch (IOException e) {
                // it is closed already
            }
        }
    }

    @Override
    public void commit(Connection connection) throws SQLException {
        run(connection, "commit");
    }

    @Override
    public void undo(Connection connection, TransactionSettings.Ending ending, String branch) throws SQLException {
        switch (ending) {
            case COMMIT, ITS_OWN -> run(connection, "rollback");
            case ROLL_BACK -> {
                run(connection, "xa end '" + branch + "'");
                run(connection, "xa rollback '" + branch + "'");
            }
        }
    }

    private static void run(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
