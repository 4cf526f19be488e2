package tidybridge.service.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import tidybridge.records.SigningKey;

class SigningKeysTest {

    private static final Instant NOW = Instant.parse("2031-05-01T10:00:00Z");

    private static SigningKey made(Duration ago) {
        return SigningKeys.make(NOW.minus(ago));
    }

    @Test
    void theFirstKeyIsUsedAtOnce() {
        SigningKey only = made(Duration.ZERO);
        SigningKeys keys = new SigningKeys(List.of(only));
        assertThat(keys.current(NOW).getKeyID()).isEqualTo(only.id());
        assertThat(keys.isOld(NOW)).isFalse();
        assertThat(new SigningKeys(List.of()).isOld(NOW)).isTrue();
    }

    @Test
    void theNextKeyIsPublishedBeforeItSigns() {
        SigningKey old = made(SigningKeys.LIFE.plusMinutes(1));
        SigningKey next = made(Duration.ofMinutes(1));
        SigningKeys keys = new SigningKeys(List.of(next, old));
        assertThat(keys.published()).hasSize(2).noneMatch(key -> key.isPrivate());
        assertThat(keys.current(NOW).getKeyID()).isEqualTo(old.id());
        assertThat(keys.current(NOW.plus(SigningKeys.AHEAD)).getKeyID()).isEqualTo(next.id());
        assertThat(keys.find(old.id())).as("what it signed stays valid").isNotNull();
    }

    @Test
    void aKeyGrowsOld() {
        SigningKeys keys = new SigningKeys(List.of(made(SigningKeys.LIFE.plusSeconds(1))));
        assertThat(keys.isOld(NOW)).isTrue();
        assertThat(SigningKeys.KEPT)
                .isGreaterThan(SigningKeys.LIFE.plus(SigningKeys.AHEAD).plus(AccessTokens.LIFE));
    }

    @Test
    void aKeyIsToldNowhere() {
        SigningKey key = made(Duration.ZERO);
        assertThat(key.toString()).doesNotContain("\"d\"");
        assertThat(key.jwk()).contains("\"d\"");
    }
}
