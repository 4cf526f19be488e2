package tidybridge.core.page;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Random;
import org.junit.jupiter.api.Test;

class ContinuationTest {

    private static final String SCOPE = "moorings/v1 GET /berths +basin+berth_no";

    private final Continuation continuation = new Continuation("0123456789abcdef".getBytes());

    @Test
    void valuesComeBackAsTheyWere() {
        @org.jspecify.annotations.Nullable
        String[] values = {"Cooper's Reach", null, "", "é\n☃", "2031-05-01 12:00:00"};
        String after = continuation.write(SCOPE, values);
        assertThat(after).matches("[A-Za-z0-9_-]+");
        assertThat(continuation.read(SCOPE, after, 5)).containsExactly(values);
    }

    @Test
    void anotherScopeKeyOrCountIsRefused() {
        String after = continuation.write(SCOPE, new String[] {"1"});
        assertThat(continuation.read("moorings/v1 GET /basins +name", after, 1)).isNull();
        assertThat(new Continuation("another key of 16 bytes".getBytes()).read(SCOPE, after, 1))
                .isNull();
        assertThat(continuation.read(SCOPE, after, 2)).isNull();
    }

    @Test
    void everyChangeIsNoticed() {
        String after = continuation.write(SCOPE, new String[] {"17", "A05"});
        Random random = new Random(1);
        for (int i = 0; i < 2_000; i++) {
            char[] chars = after.toCharArray();
            // the last char's low bits are padding; every other bit counts
            int at = random.nextInt(chars.length - 1);
            chars[at] = chars[at] == 'A' ? 'B' : 'A';
            String changed = new String(chars);
            assertThat(changed.equals(after) ? null : continuation.read(SCOPE, changed, 2))
                    .isNull();
        }
        for (int cut = 0; cut < after.length(); cut++) {
            assertThat(continuation.read(SCOPE, after.substring(0, cut), 2)).isNull();
        }
        assertThat(continuation.read(SCOPE, "no such thing!", 2)).isNull();
    }

    @Test
    void aShortKeyIsRefused() {
        assertThatThrownBy(() -> new Continuation(new byte[8])).hasMessageContaining("8 bytes");
    }
}
