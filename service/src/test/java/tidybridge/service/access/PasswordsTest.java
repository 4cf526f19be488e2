package tidybridge.service.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.Cost;

class PasswordsTest {

    private static final List<String> ABOUT = List.of("mara.holt", "Mara Holt");

    private final Passwords passwords = new Passwords(HashCost.USUAL);

    @ParameterizedTest
    @ValueSource(
            strings = {
                "password12",
                "1234567890",
                "qwertyuiop",
                "iloveyou12",
                "Passw0rd!!",
                "aaaaaaaaaaaa",
                "mara.holt1",
                "MaraHolt12",
                "tidybridge",
                "abcdefghijkl",
                "letmein123",
                "admin12345",
                "sunshine12"
            })
    void whatIsGuessedFirstIsRefused(String password) {
        assertThat(passwords.weakness(password, ABOUT)).as(password).contains("among the first");
    }

    @ParameterizedTest
    @CsvSource(textBlock = """
            '',          at least 10
            short,       at least 10
            ninechars,   at least 10
            😀😀😀😀😀😀,  at least 10
            """)
    void aLengthIsCountedInCharacters(String password, String problem) {
        assertThat(passwords.weakness(password, ABOUT)).contains(problem);
    }

    @Test
    void theLongestHasABoundAndCostsNoMore() {
        assertThat(passwords.weakness("ab7$".repeat(60), ABOUT)).contains("at most 200");
        assertThat(Cost.ofThread(() -> {
                    passwords.weakness("a1".repeat(100), ABOUT);
                    passwords.weakness("qwerty".repeat(33), ABOUT);
                }))
                .isLessThan(Duration.ofSeconds(2));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"seven herons on a lock beam", "kLm-4711-ochre-Quay", "žluťoučký kůň pěl ódy", "水門の番人は夜も起きている"})
    void whatNobodyGuessesIsTaken(String password) throws Exception {
        assertThat(passwords.weakness(password, ABOUT)).isNull();
        String hash = passwords.hash(password);
        assertThat(hash).startsWith("$argon2id$v=19$m=16384,t=2,p=1$").doesNotContain(password);
        assertThat(passwords.fits(password, hash)).isTrue();
        assertThat(passwords.fits(password + "x", hash)).isFalse();
        assertThat(passwords.fits(password, null)).isFalse();
        assertThat(passwords.fits("nobody has this password", null)).isFalse();
    }
}
