package tidybridge.service.live;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.core.page.Continuation;
import tidybridge.records.Release;

/** What is live, as those see it who do not wait for whoever changes it. */
class InPlaceTest {

    private static final int CHANGES = 2_000;

    /** Whoever knows the number of a change finds what it made live. */
    @Test
    void whatIsToldAsTakenOverIsInPlace() {
        byte[] key = "0123456789abcdef".getBytes();
        InPlace inPlace = new InPlace(new Continuation(key), new MaskKey(key));
        CompletableFuture<Void> changing = CompletableFuture.runAsync(() -> LongStream.rangeClosed(1, CHANGES)
                .forEach(number -> inPlace.put(inPlace.ticket(), number, List.of(quays(number)), Map.of())));
        for (long told = 0; told < CHANGES && !changing.isCompletedExceptionally(); ) {
            told = inPlace.change();
            LiveModule found = inPlace.live().module("quays/v1");
            assertThat(found == null ? -1 : found.release().id()).isGreaterThanOrEqualTo(told);
        }
        changing.join();
    }

    static LiveModule quays(long number) {
        return LiveModule.pending(new Release(
                number,
                "quays",
                new Version(1, (int) number, 0),
                new ModuleText("modules/quays", Map.of(ModuleText.MAIN, "module: quays\n")),
                "",
                "a test",
                Instant.EPOCH,
                null));
    }
}
