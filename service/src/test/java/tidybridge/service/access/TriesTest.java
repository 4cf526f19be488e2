package tidybridge.service.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;

class TriesTest {

    private final Moving clock = new Moving();
    private final Tries tries = new Tries(clock);

    /** A clock that stands still unless it is told otherwise. */
    private static final class Moving extends Clock {
        private Instant now = Instant.parse("2031-05-01T10:00:00Z");

        void pass(Duration time) {
            now = now.plus(time);
        }

        @Override
        public Instant instant() {
            return now;
        }

        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }
    }

    private int allowed(String name, String address, boolean known, int times) {
        int allowed = 0;
        for (int i = 0; i < times; i++) {
            if (tries.begin(name, address, known).isAllowed()) {
                allowed++;
            }
        }
        return allowed;
    }

    @Test
    void oneAddressHasAFewTriesForAName() {
        assertThat(allowed("mara", "192.0.2.1", false, 1_000)).isEqualTo(Tries.FROM_ONE);
        assertThat(allowed("mara", "192.0.2.2", false, 1_000))
                .as("from elsewhere")
                .isEqualTo(Tries.FROM_ONE);
        assertThat(allowed("joss", "192.0.2.1", false, 1_000))
                .as("another name")
                .isEqualTo(Tries.FROM_ONE);
    }

    @Test
    void triesComeBackOneByOne() {
        allowed("mara", "192.0.2.1", false, 1_000);
        Tries.Try refused = tries.begin("mara", "192.0.2.1", false);
        assertThat(refused.delay()).isBetween(Duration.ofMillis(1), Tries.BACK_FROM_ONE);
        clock.pass(Tries.BACK_FROM_ONE);
        assertThat(allowed("mara", "192.0.2.1", false, 10)).isEqualTo(1);
        clock.pass(Tries.BACK_FROM_ONE.multipliedBy(100));
        assertThat(allowed("mara", "192.0.2.1", false, 10)).isEqualTo(Tries.FROM_ONE);
    }

    @Test
    void aTrySucceedingCostsNothing() {
        for (int i = 0; i < 100; i++) {
            Tries.Try begun = tries.begin("mara", "192.0.2.1", false);
            assertThat(begun.isAllowed()).isTrue();
            begun.succeeded();
        }
    }

    @Test
    void manyAddressesTogetherAreSlowedAndThePersonsOwnBrowserIsNot() {
        int allowed = 0;
        for (int i = 0; i < 200; i++) {
            allowed += allowed("mara", "192.0.2." + i, false, 10);
        }
        assertThat(allowed).isEqualTo(Tries.FROM_ALL);
        assertThat(allowed("mara", "198.51.100.9", true, 3)).isEqualTo(3);
        assertThat(allowed("mara", "198.51.100.9", true, 1_000))
                .as("it has a bound too")
                .isEqualTo(Tries.FROM_ONE - 3);
    }

    @Test
    void aNetworkOfAddressesCountsAsOne() {
        int allowed = 0;
        for (int i = 0; i < 100; i++) {
            allowed += allowed("mara", "2001:db8:1:2::" + i, false, 1);
        }
        assertThat(allowed).isEqualTo(Tries.FROM_ONE);
    }
}
