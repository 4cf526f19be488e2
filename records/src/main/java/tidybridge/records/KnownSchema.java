package tidybridge.records;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.zip.CRC32;
import javax.sql.DataSource;

/**
 * Looks whether a store has the schema of this program's migrations, each as it is in the program. Flyway can tell too, but takes a tenth of
 * a service's start for it; what is not as expected here is left to it.
 */
final class KnownSchema {

    /** The number of the newest migration. */
    static final int NEWEST = 16;

    static final String MIGRATIONS = "tidybridge/records/migrations";
    static final String TABLE = "schema_version";

    private static final int NO_SUCH_TABLE = 1146;

    private KnownSchema() {}

    /**
     * True when every migration is there and nothing else.
     *
     * @throws SQLException when the store cannot be reached or read
     */
    static boolean isIn(DataSource store) throws SQLException {
        int known = 0;
        try (Connection connection = store.getConnection();
                Statement statement = connection.createStatement();
                ResultSet applied = statement.executeQuery(
                        "select script, checksum, success from " + TABLE + " order by installed_rank")) {
            while (applied.next()) {
                if (!applied.getBoolean("success")
                        || !isOfProgram(applied.getString("script"), applied.getInt("checksum"))) {
                    return false;
                }
                known++;
            }
        } catch (SQLException e) {
            if (e.getErrorCode() == NO_SUCH_TABLE) {
                return false;
            }
            throw e;
        }
        return known == NEWEST;
    }

    /** The checksum is Flyway's: that of all lines, without their ends. */
    private static boolean isOfProgram(String script, int checksum) {
        try (InputStream in = KnownSchema.class.getClassLoader().getResourceAsStream(MIGRATIONS + "/" + script)) {
            if (in == null) {
                return false;
            }
            CRC32 lines = new CRC32();
            new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))
                    .lines()
                    .forEach(line -> lines.update(line.getBytes(StandardCharsets.UTF_8)));
            return (int) lines.getValue() == checksum;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
