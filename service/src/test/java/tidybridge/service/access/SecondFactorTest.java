package tidybridge.service.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.time.Instant;
import org.apache.commons.codec.binary.Base32;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SecondFactorTest {

    /** The secret of RFC 6238, appendix B. */
    private static final String SECRET =
            new Base32().encodeToString("12345678901234567890".getBytes(StandardCharsets.US_ASCII));

    /** The last six digits of what the appendix lists. */
    @ParameterizedTest
    @CsvSource({"59, 287082", "1111111109, 081804", "1111111111, 050471", "1234567890, 005924", "2000000000, 279037"})
    void theCodesAreThoseOfTheStandard(long second, String code) {
        assertThat(SecondFactor.code(SECRET, second / 30)).isEqualTo(code);
        assertThat(SecondFactor.step(SECRET, code, Instant.ofEpochSecond(second)))
                .isEqualTo(second / 30);
    }

    @Test
    void aCodeIsGoodOneStepAround() {
        Instant now = Instant.ofEpochSecond(1_111_111_111);
        String code = SecondFactor.code(SECRET, now.getEpochSecond() / 30);
        assertThat(SecondFactor.step(SECRET, code, now.plusSeconds(30))).isPositive();
        assertThat(SecondFactor.step(SECRET, code, now.minusSeconds(30))).isPositive();
        assertThat(SecondFactor.step(SECRET, code, now.plusSeconds(90))).isEqualTo(-1);
        assertThat(SecondFactor.step(SECRET, code, now.minusSeconds(90))).isEqualTo(-1);
    }

    @Test
    void whatIsNoCodeIsWrong() {
        for (String code : new String[] {"", "12345", "1234567", "abcdef", "１２３４５６"}) {
            assertThat(SecondFactor.step(SECRET, code, Instant.EPOCH)).isEqualTo(-1);
        }
    }

    @Test
    void anAddressIsWhatAuthenticatorsRead() {
        String secret = SecondFactor.secret(new SecureRandom());
        assertThat(secret).matches("[A-Z2-7]{32}");
        assertThat(SecondFactor.address("mara.holt@marrowby.example", secret))
                .isEqualTo("otpauth://totp/Tidy%20Bridge%3Amara.holt%40marrowby.example?secret=" + secret
                        + "&issuer=Tidy%20Bridge");
    }
}
