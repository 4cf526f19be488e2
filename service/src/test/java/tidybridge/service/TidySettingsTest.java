package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.core.definition.Transport;
import tidybridge.service.TidySettings.SourceSetting;

class TidySettingsTest {

    private static RecordsSetting database(String host, Integer port, Path secret) {
        return new RecordsSetting(host, port, "schema", "user", null, secret, null, null, null, null);
    }

    private static SourceSetting source(String host, Integer port, Path secret) {
        return new SourceSetting(host, port, "schema", "user", null, secret, null, null, null, null, null, null, null);
    }

    private static TidySettings settings(RecordsSetting records, Map<String, SourceSetting> sources) {
        return new TidySettings(
                null, null, null, records, null, null, null, null, null, null, null, null, null, null, null, null, null,
                null, null, null, sources);
    }

    @Test
    void everyWrongSettingIsNamedInOneMessage() {
        SourceSetting wrong = new SourceSetting(
                null,
                70_000,
                " ",
                "user",
                "TIDY_NO_SUCH_VARIABLE",
                null,
                0,
                Duration.ZERO,
                null,
                null,
                null,
                null,
                "no-such.pem");
        assertThatThrownBy(() -> settings(null, Map.of("waterways", wrong)).checked())
                .hasMessageContainingAll(
                        "tidy.records.host is missing",
                        "tidy.records.secret-env or tidy.records.secret-file is missing",
                        "tidy.sources.waterways.host is missing",
                        "tidy.sources.waterways.port must be from 1 to 65535",
                        "tidy.sources.waterways.schema is missing",
                        "TIDY_NO_SUCH_VARIABLE (tidy.sources.waterways.secret-env) is not set",
                        "no-such.pem (tidy.sources.waterways.certificate) cannot be read",
                        "tidy.sources.waterways.patience must be above zero",
                        "tidy.sources.waterways.connections must be from 1 to 1000");
    }

    @Test
    void aSecretComesFromItsFileAndIsNeverPrinted(@TempDir Path folder) throws Exception {
        Path secret = Files.writeString(folder.resolve("secret"), "sesame\n");
        TidySettings.Checked checked = settings(
                        database("127.0.0.1", null, secret),
                        Map.of("waterways", source("db.marrowby.example", 3307, secret)))
                .checked();
        assertThat(checked.records().password()).isEqualTo("sesame");
        assertThat(checked.records().port()).isEqualTo(3306);
        assertThat(checked.sources().getFirst().secret()).isEqualTo("sesame");
        assertThat(checked.toString()).doesNotContain("sesame");
    }

    @Test
    void transportSecurityIsRequiredBeyondThisMachine(@TempDir Path folder) throws Exception {
        Path secret = Files.writeString(folder.resolve("secret"), "sesame");
        Map<String, SourceSetting> sources = Map.of("far", source("db.marrowby.example", null, secret));
        TidySettings.Checked checked =
                settings(database("localhost", null, secret), sources).checked();
        assertThat(checked.records().tls()).isFalse();
        assertThat(checked.sources().getFirst().transport()).isEqualTo(Transport.VERIFIED);
    }

    @Test
    void aSecretFileThatCannotBeReadIsNamed(@TempDir Path folder) {
        Path missing = folder.resolve("missing");
        assertThatThrownBy(() ->
                        settings(database("localhost", null, missing), null).checked())
                .hasMessage("The settings cannot be used: the file " + missing
                        + " (tidy.records.secret-file) cannot be read.");
    }

    @Test
    void theWorkspaceDefinesSourcesItsEnvironmentsDifferAndSettingsHaveTheLastWord(@TempDir Path folder)
            throws Exception {
        Path secret = Files.writeString(folder.resolve("secret"), "sesame");
        Files.writeString(folder.resolve("workspace.yaml"), """
                workspace: Test
                sources:
                  waterways: { host: near.example, schema: waterways, user: reader, secret: { file: secret }, patience: 2s }
                environments:
                  production:
                    waterways: { host: far.example, read-only: false, timeout: 20s }
                """);
        RecordsSetting records = database("localhost", null, secret);
        SourceSetting here =
                new SourceSetting(null, 3310, null, null, null, null, null, null, null, null, null, null, null);
        var source = new TidySettings(
                        null,
                        folder,
                        "production",
                        records,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        Map.of("waterways", here))
                .checked()
                .sources()
                .getFirst();
        assertThat(source.address()).isEqualTo("reader at far.example:3310/waterways");
        assertThat(source.secret()).isEqualTo("sesame");
        assertThat(source.readOnly()).isFalse();
        assertThat(source.patience()).isEqualTo(Duration.ofSeconds(2));
        assertThat(source.timeout()).isEqualTo(Duration.ofSeconds(20));
        assertThatThrownBy(() -> new TidySettings(
                                null,
                                folder,
                                "producton",
                                records,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null,
                                null)
                        .checked())
                .hasMessageContaining("no environment 'producton'. Did you mean 'production'?");
    }
}
