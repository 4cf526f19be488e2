package tidybridge.core.definition;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.SourceText;

class SourceReaderTest {

    private static final String TEXT = """
            workspace: W
            sources:
              waterways: { kind: mariadb, host: near.example, port: 3307, schema: w, user: u, secret: { env: W_SECRET }, connections: 5,
                           patience: 500ms, timeout: 1m, all-timeout: 90m, read-only: false, transport: encrypted, certificate: ca.pem, about: Berths }
              tolls: { secret: { file: toll.secret } }
            environments:
              production:
                waterways: { host: far.example, transport: verified, read-only: true }
            """;

    private final Findings findings = new Findings();

    private Map<String, SourceDefinition> read(String text, @Nullable String environment) {
        return SourceReader.read(new SourceText("workspace.yaml", text), environment, findings);
    }

    private List<String> codes(String text, @Nullable String environment) {
        read(text, environment);
        return findings.sorted().stream().map(finding -> finding.code().label()).toList();
    }

    @Test
    void everyKeyIsRead() {
        SourceDefinition source = read(TEXT, null).get("waterways");
        assertThat(findings.sorted()).isEmpty();
        assertThat(source)
                .isEqualTo(new SourceDefinition(
                        "waterways",
                        source.place(),
                        SourceKind.MARIADB,
                        "Berths",
                        "near.example",
                        3307,
                        "w",
                        "u",
                        new SecretReference.Variable("W_SECRET"),
                        5,
                        Duration.ofMillis(500),
                        Duration.ofMinutes(1),
                        Duration.ofMinutes(90),
                        false,
                        Transport.ENCRYPTED,
                        "ca.pem"));
        assertThat(read(TEXT, null).get("tolls").secret()).isEqualTo(new SecretReference.File("toll.secret"));
    }

    @Test
    void anEnvironmentSaysOnlyWhatDiffers() {
        SourceDefinition source = read(TEXT, "production").get("waterways");
        assertThat(source.host()).isEqualTo("far.example");
        assertThat(source.transport()).isEqualTo(Transport.VERIFIED);
        assertThat(source.readOnly()).isTrue();
        assertThat(source.port()).isEqualTo(3307);
        assertThat(source.secret()).isEqualTo(new SecretReference.Variable("W_SECRET"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    secret: { env: W_SECRET }   | secret: sesame                    | secret-written
                    secret: { env: W_SECRET }   | secret: { env: A, file: b }       | value-unfit
                    secret: { env: W_SECRET }   | secret: { vault: a }              | unknown-key
                    port: 3307                  | port: 70000                       | value-unfit
                    connections: 5              | connections: 0                    | value-unfit
                    patience: 500ms             | patience: 2m                      | value-unfit
                    transport: encrypted        | transport: open                   | value-unfit
                    kind: mariadb               | kind: lantern of wick            | value-unfit
                    host: near                  | hots: near                        | unknown-key
                    read-only: false            | read-only: perhaps                | value-unfit
                    tolls:                      | Tolls:                            | value-unfit
                    """)
    void whatDoesNotFitIsFound(String old, String now, String code) {
        assertThat(codes(TEXT.replaceFirst(java.util.regex.Pattern.quote(old), now), null))
                .contains(code);
        assertThat(findings.sorted()).noneMatch(finding -> finding.message().contains("sesame"));
    }

    @Test
    void environmentsNameKnownSourcesAndAreKnownThemselves() {
        assertThat(codes(TEXT, "staging")).containsExactly("environment-unknown");
        assertThat(codes(TEXT.replace("    waterways: { host: far", "    waterway: { host: far"), null))
                .contains("source-unknown");
    }
}
