package tidybridge.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PatienceTest {

    @ParameterizedTest
    @CsvSource({
        "700, false, true, 2, nothing to spare was missing",
        "700, true, true, 9, three seconds and no longer",
        "700, true, false, 2, the database is to blame",
        "8000, true, true, 2, longer than three seconds by itself",
        "1, true, true, 6000, a short one"
    })
    void theUsualTimeIsWaitedForAndMoreWhereProcessorsWereBusy(
            long usual, boolean busy, boolean mayBeLate, int halves, String why) {
        Patience patience = new Patience(Duration.ofMillis(usual), () -> busy);
        int waited = 1;
        while (patience.goesOn(mayBeLate)) {
            waited++;
        }
        assertThat(waited).as(why).isEqualTo(halves);
    }
}
