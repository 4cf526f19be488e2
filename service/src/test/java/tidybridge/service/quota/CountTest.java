package tidybridge.service.quota;

import static org.assertj.core.api.Assertions.assertThat;

import io.github.bucket4j.TimeMeter;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import tidybridge.core.access.Quota;
import tidybridge.records.QuotaUses;

/** What one service knows of one quota, while time goes on and others call too. */
class CountTest {

    private long nanos = Instant.parse("2031-04-02T10:00:20Z").getEpochSecond() * 1_000_000_000L;

    private final Count count = new Count("c", new Quota(20, Duration.ofMinutes(1), 0, true), new TimeMeter() {
        @Override
        public long currentTimeNanos() {
            return nanos;
        }

        @Override
        public boolean isWallClockBased() {
            return true;
        }
    });

    private void pass(Duration time) {
        nanos += time.toNanos();
    }

    private Count.Taken take() {
        count.reserve(true);
        return count.take();
    }

    private int takeAll() {
        int taken = 0;
        while (take().isLet()) {
            taken++;
        }
        return taken;
    }

    @Test
    void aWindowEndsAtTheWholeMinuteHoweverMuchOfItWasUsed() {
        assertThat(take().nanosToNext()).isEqualTo(Duration.ofSeconds(40).toNanos());
        assertThat(takeAll()).isEqualTo(19);
        pass(Duration.ofSeconds(39));
        assertThat(take().isLet()).isFalse();
        pass(Duration.ofSeconds(1));
        assertThat(takeAll()).isEqualTo(20);
        pass(Duration.ofMinutes(5));
        assertThat(takeAll()).isEqualTo(20);
    }

    @Test
    void whatOthersLetThroughIsNotLetThroughHere() {
        take();
        QuotaUses.Use mine = count.tell();
        assertThat(mine.count()).isEqualTo(1);
        assertThat(mine.begunAt()).isEqualTo(Instant.parse("2031-04-02T10:00:00Z"));
        count.heard(mine, 8);
        take();
        count.heard(count.tell(), 12);
        assertThat(count.left()).isEqualTo(8);
        assertThat(takeAll()).isEqualTo(8);
    }

    @Test
    void othersWhoWentTooFarTakeNothingFromTheNextWindow() {
        take();
        count.heard(count.tell(), 35);
        assertThat(take().isLet()).isFalse();
        pass(Duration.ofSeconds(40));
        assertThat(takeAll()).isEqualTo(20);
    }

    @Test
    void nobodyIsFurtherAheadThanATenthBeforeTheOthersKnow() {
        assertThat(count.reserve(false)).isZero();
        assertThat(count.reserve(false)).isEqualTo(1);
        assertThat(count.reserve(false)).isEqualTo(Count.FULL);
        QuotaUses.Use told = count.tell();
        assertThat(told.count()).isEqualTo(2);
        assertThat(count.reserve(false)).as("they are being told still").isEqualTo(Count.FULL);
        assertThat(count.reserve(true)).as("there is nobody to tell").isEqualTo(2);
        assertThat(count.heard(told, 2)).as("more to be told").isTrue();
        assertThat(count.reserve(false)).isEqualTo(1);
        assertThat(count.tell().count()).isEqualTo(2);
    }

    @Test
    void aCallThatIsTakenBackWasNoCall() {
        take();
        count.giveBack();
        assertThat(count.tell().count()).isZero();
        assertThat(takeAll()).isEqualTo(20);
    }
}
