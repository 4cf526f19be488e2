package tidybridge.service.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.security.SecureRandom;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class IssuedSecretTest {

    private static final String GOOD = "tbk_0123456789abcdef_" + "A".repeat(43);

    @Test
    void whatWasMadeIsReadAgain() {
        SecureRandom random = new SecureRandom();
        Set<String> all = new HashSet<>();
        for (IssuedSecret.Kind kind : IssuedSecret.Kind.values()) {
            for (int i = 0; i < 100; i++) {
                IssuedSecret made = IssuedSecret.make(kind, random);
                assertThat(IssuedSecret.read(made.text())).isEqualTo(made);
                assertThat(made.hash()).matches("[0-9a-f]{64}");
                assertThat(made.toString()).doesNotContain(made.text());
                assertThat(all.add(made.text())).isTrue();
            }
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "tbk_",
                "tbx_0123456789abcdef_AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA",
                "TBK_0123456789abcdef_AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA",
                "tbk_0123456789ABCDEF_AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA",
                "tbk_0123456789abcdef-AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA",
                "tbk_0123456789abcdef_AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA=",
                "tbk_0123456789abcdef_AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAé",
                "tbk_0123456789abcdef_AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA\n"
            })
    void whatWasNeverMadeIsNotRead(String text) {
        assertThat(IssuedSecret.read(GOOD)).isNotNull();
        assertThat(IssuedSecret.read(text)).isNull();
        assertThat(IssuedSecret.read(GOOD + "A")).isNull();
    }
}
