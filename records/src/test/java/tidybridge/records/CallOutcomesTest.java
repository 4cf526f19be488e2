package tidybridge.records;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;

/** Claims on idempotency keys, their outcomes, and what becomes of those whose owner died. */
class CallOutcomesTest {

    private static final String KEY = "a".repeat(64);
    private static final String PRINT = "b".repeat(64);
    private static final Instant NOW = Instant.parse("2031-05-01T10:00:00Z");
    private static final Duration LEASE = Duration.ofSeconds(10);
    private static final Duration KEPT = Duration.ofHours(24);
    private static final Outcome MADE = new Outcome(201, "{}", new byte[] {1, 2});

    private Records records;
    private CallOutcomes outcomes;

    @BeforeEach
    void open() throws Exception {
        TestDatabase.emptyRecords();
        records = Records.open(new RecordsSettings(
                "127.0.0.1",
                TestDatabase.server().port(),
                DemoDatabase.RECORDS_SCHEMA,
                DemoDatabase.RECORDS_USER,
                TestDatabase.PASSWORD,
                false));
        outcomes = records.outcomes();
    }

    @AfterEach
    void close() {
        records.close();
    }

    private Claim claim(String print, boolean together, Instant now) {
        return outcomes.claim(KEY, print, together, now, LEASE, KEPT);
    }

    private Claim.Mine mine(Claim claim) {
        assertThat(claim).isInstanceOf(Claim.Mine.class);
        return (Claim.Mine) claim;
    }

    /** A node that lives renews its claims; one that is dead loses them soon. */
    @Test
    void aRenewedClaimIsNotTakenOver() {
        Claim.Mine mine = mine(claim(PRINT, true, NOW));
        Instant later = NOW.plus(LEASE).plusMillis(1);
        outcomes.renew(List.of(mine), later.plus(LEASE));
        assertThat(claim(PRINT, true, later)).isEqualTo(new Claim.Busy());
        assertThat(mine(claim(PRINT, true, later.plus(LEASE).plusMillis(1)))).isNotEqualTo(mine);
        outcomes.renew(List.of(mine), later.plus(LEASE).plus(LEASE));
        assertThat(claim(PRINT, true, later.plus(LEASE).plus(LEASE).plusMillis(2)))
                .as("whoever lost a claim cannot renew it")
                .isInstanceOf(Claim.Mine.class);
    }

    @Test
    void anOutcomeIsFoundAgainUntilItIsForgotten() {
        Claim.Mine mine = mine(claim(PRINT, true, NOW));
        assertThat(claim(PRINT, true, NOW)).isEqualTo(new Claim.Busy());
        outcomes.finish(mine, MADE);
        assertThat(claim(PRINT, true, NOW.plusSeconds(3_600)))
                .isInstanceOfSatisfying(Claim.Finished.class, finished -> {
                    assertThat(finished.outcome().status()).isEqualTo(201);
                    assertThat(finished.outcome().body()).containsExactly(1, 2);
                });
        assertThat(claim("c".repeat(64), true, NOW)).isEqualTo(new Claim.Different());
        assertThat(outcomes.forget(NOW.plus(KEPT))).isFalse();
        assertThat(claim("c".repeat(64), true, NOW)).isEqualTo(new Claim.Different());
        assertThat(outcomes.forget(NOW.plus(KEPT).plusSeconds(1)))
                .as("more than one look is needed")
                .isFalse();
        mine(claim(PRINT, true, NOW));
    }

    @Test
    void anExpiredOneMakesRoomBeforeItIsForgotten() {
        outcomes.finish(mine(claim(PRINT, false, NOW)), MADE);
        mine(claim("c".repeat(64), false, NOW.plus(KEPT).plusSeconds(1)));
    }

    @Test
    void aReleasedKeyCanBeClaimedAgain() {
        outcomes.release(mine(claim(PRINT, false, NOW)));
        mine(claim(PRINT, false, NOW));
    }

    @Test
    void theClaimOfADeadNodeIsTakenOverOnlyWhereItsOutcomeWouldBeThere() throws Exception {
        Claim.Mine dead = mine(claim(PRINT, true, NOW));
        Claim.Mine taken = mine(claim(PRINT, true, NOW.plus(LEASE).plusSeconds(1)));
        assertThat(taken.claim()).isNotEqualTo(dead.claim());
        assertThat(finishedBy(dead)).as("too late").isZero();
        assertThat(finishedBy(taken)).isEqualTo(1);
        outcomes.forget(NOW.plus(KEPT).plusSeconds(60));
        mine(claim(PRINT, false, NOW));
        assertThat(claim(PRINT, false, NOW.plus(LEASE).plusSeconds(1))).isEqualTo(new Claim.Unknown());
    }

    @Test
    void anAbandonedClaimNeedNotWaitForItsLease() {
        outcomes.abandon(mine(claim(PRINT, true, NOW)), NOW);
        mine(claim(PRINT, true, NOW));
    }

    /** As a source's own transaction does it. */
    private static int finishedBy(Claim.Mine claim) throws Exception {
        try (var connection = TestDatabase.server().connect("");
                var statement = connection.prepareStatement(CallOutcomes.finishing(DemoDatabase.RECORDS_SCHEMA))) {
            statement.setInt(1, 200);
            statement.setString(2, "{}");
            statement.setBytes(3, new byte[0]);
            statement.setString(4, claim.key());
            statement.setString(5, claim.claim());
            return statement.executeUpdate();
        }
    }

    @Test
    void whatIsAuditedIsCutToWhatFits() throws Exception {
        records.audit().add(new AuditEntry(NOW, "w".repeat(500), null, "rehearse", "s".repeat(500), "d".repeat(5_000)));
        assertThat(TestDatabase.column("select concat(length(who), ' ', length(subject), ' ', length(detail)) from "
                        + DemoDatabase.RECORDS_SCHEMA + ".audit_entry"))
                .containsExactly("120 255 1000");
    }
}
