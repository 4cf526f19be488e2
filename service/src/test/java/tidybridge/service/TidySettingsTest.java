package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.service.TidySettings.Database;

class TidySettingsTest {

    private static Database database(String host, Integer port, Path secret) {
        return new Database(host, port, "schema", "user", null, secret, null, null);
    }

    @Test
    void everyWrongSettingIsNamedInOneMessage() {
        Database wrong = new Database(null, 70_000, " ", "user", "TIDY_NO_SUCH_VARIABLE", null, null, 0);
        assertThatThrownBy(() -> new TidySettings(null, null, Map.of("waterways", wrong)).checked())
                .hasMessageContainingAll(
                        "tidy.records.host is missing",
                        "tidy.records.secret-env or tidy.records.secret-file is missing",
                        "tidy.sources.waterways.host is missing",
                        "tidy.sources.waterways.port must be from 1 to 65535",
                        "tidy.sources.waterways.schema is missing",
                        "TIDY_NO_SUCH_VARIABLE (tidy.sources.waterways.secret-env) is not set",
                        "tidy.sources.waterways.connections must be from 1 to 1000");
    }

    @Test
    void aSecretComesFromItsFileAndIsNeverPrinted(@TempDir Path folder) throws Exception {
        Path secret = Files.writeString(folder.resolve("secret"), "sesame\n");
        TidySettings.Checked checked = new TidySettings(
                        null,
                        database("127.0.0.1", null, secret),
                        Map.of("waterways", database("db.marrowby.example", 3307, secret)))
                .checked();
        assertThat(checked.records().password()).isEqualTo("sesame");
        assertThat(checked.records().port()).isEqualTo(3306);
        assertThat(checked.sources().getFirst().secret()).isEqualTo("sesame");
        assertThat(checked.toString()).doesNotContain("sesame");
    }

    @Test
    void transportSecurityIsRequiredBeyondThisMachine(@TempDir Path folder) throws Exception {
        Path secret = Files.writeString(folder.resolve("secret"), "sesame");
        Map<String, Database> sources = Map.of("far", database("db.marrowby.example", null, secret));
        TidySettings.Checked checked = new TidySettings(null, database("localhost", null, secret), sources).checked();
        assertThat(checked.records().tls()).isFalse();
        assertThat(checked.sources().getFirst().tls()).isTrue();
    }

    @Test
    void aSecretFileThatCannotBeReadIsNamed(@TempDir Path folder) {
        Path missing = folder.resolve("missing");
        assertThatThrownBy(() -> new TidySettings(null, database("localhost", null, missing), null).checked())
                .hasMessage("The settings cannot be used: the file " + missing
                        + " (tidy.records.secret-file) cannot be read.");
    }
}
