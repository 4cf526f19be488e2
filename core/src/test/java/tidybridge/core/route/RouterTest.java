package tidybridge.core.route;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.lang.management.ManagementFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class RouterTest {

    private final int[] captures = new int[2 * Router.MOST_CAPTURES];

    private static Router<String> router(String... paths) {
        Router.Builder<String> builder = new Router.Builder<>();
        for (String path : paths) {
            builder.add(PathTemplate.parse(path), path);
        }
        return builder.build();
    }

    @ParameterizedTest
    @CsvSource({
        "/berths,/berths",
        "/berths/free,/berths/free",
        "/berths/17,/berths/{id}",
        "/berths/17/bookings,/berths/{id}/bookings",
        "/berths/free/bookings,/berths/{id}/bookings",
        "/berths/,",
        "/berths//bookings,",
        "/berth,",
        "/berths/17/bookings/1,",
        "/Berths,"
    })
    void aLiteralGoesBeforeAPlaceholder(String path, String expected) {
        Router<String> router = router("/berths", "/berths/{id}", "/berths/free", "/berths/{id}/bookings");
        assertThat(router.match(path, 0, captures)).isEqualTo(expected);
    }

    @Test
    void capturesTellWhereThePlaceholdersTextsAre() {
        Router<String> router = router("/a/{x}/b/{y}");
        String path = "/api/a/first/b/second";
        assertThat(router.match(path, 4, captures)).isEqualTo("/a/{x}/b/{y}");
        assertThat(path.substring(captures[0], captures[1])).isEqualTo("first");
        assertThat(path.substring(captures[2], captures[3])).isEqualTo("second");
    }

    @Test
    void aMatchAllocatesNothing() {
        Router.Builder<String> builder = new Router.Builder<>();
        for (int i = 0; i < 10_000; i++) {
            builder.add(PathTemplate.parse("/m" + i % 100 + "/v1/r" + i + "/{id}"), "t" + i);
        }
        Router<String> router = builder.build();
        var threads = (com.sun.management.ThreadMXBean) ManagementFactory.getThreadMXBean();
        String path = "/m77/v1/r9977/4711";
        for (int i = 0; i < 20_000; i++) {
            router.match(path, 0, captures);
        }
        long before = threads.getCurrentThreadAllocatedBytes();
        for (int i = 0; i < 100_000; i++) {
            router.match(path, 0, captures);
        }
        long bytes = threads.getCurrentThreadAllocatedBytes() - before;
        assertThat(router.match(path, 0, captures)).isEqualTo("t9977");
        assertThat(bytes).isLessThan(100_000);
    }

    @ParameterizedTest
    @ValueSource(strings = {"berths", "/a//b", "/{a}/{a}", "/a{b}", "/{a", "/a b", "/..", "/a/", "/{1}"})
    void templatesThatCannotBeReadAreRefused(String path) {
        assertThatThrownBy(() -> PathTemplate.parse(path)).isInstanceOf(IllegalArgumentException.class);
    }

    @ParameterizedTest
    @CsvSource({
        "/a/{x},/a/{y},true",
        "/a/{x},/{y}/b,true",
        "/a/{x},/a/b,false",
        "/a/b,/a/b,true",
        "/a/b,/a/c,false",
        "/a,/a/b,false"
    })
    void ambiguityIsWhenNoneIsMoreParticular(String one, String other, boolean ambiguous) {
        assertThat(PathTemplate.parse(one).ambiguousWith(PathTemplate.parse(other)))
                .isEqualTo(ambiguous);
        assertThat(PathTemplate.parse(other).ambiguousWith(PathTemplate.parse(one)))
                .isEqualTo(ambiguous);
    }

    @ParameterizedTest
    @CsvSource({"/a%62c,/abc", "/a%2Fb,/a%2Fb", "/%zz,/%zz", "/%,/%", "/plain,/plain"})
    void onlyEncodingsWithoutMeaningAreUndone(String path, String expected) {
        assertThat(PathText.normalize(path)).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource(
            value = {"a%2Fb,a/b", "a+b,a b", "%C3%A9,é", "%C3,null", "%4,null", "%zz,null"},
            nullValues = "null")
    void decodingRefusesWhatIsNoUtf8(String text, String expected) {
        assertThat(PathText.decode(text, 0, text.length(), true)).isEqualTo(expected);
    }
}
