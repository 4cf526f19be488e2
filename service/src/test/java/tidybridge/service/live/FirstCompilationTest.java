package tidybridge.service.live;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.Test;
import tidybridge.demo.Until;
import tidybridge.records.Release;

/** Which of the modules that were live before a start is compiled first. */
class FirstCompilationTest {

    @Test
    void whatACallerWaitsForIsCompiledBeforeTheRest() throws Exception {
        Release called = InPlaceTest.quays(1).release();
        Release other = InPlaceTest.quays(2).release();
        List<Long> ended = Collections.synchronizedList(new ArrayList<>());
        CountDownLatch going = new CountDownLatch(1);
        CompletableFuture<Void> goOn = new CompletableFuture<>();
        FirstCompilation first = new FirstCompilation(List.of(other, called), release -> {
            if (release == called) {
                going.countDown();
                goOn.join();
            }
            ended.add(release.id());
            return LiveModule.pending(release);
        });
        Thread caller = Thread.ofPlatform().start(() -> first.compiled(called));
        going.await();
        Thread background = Thread.ofPlatform().start(() -> first.compiledMeanwhile(other));
        Until.holds(() -> background.getState() == Thread.State.WAITING);
        goOn.complete(null);
        caller.join();
        background.join();
        assertThat(ended).containsExactly(1L, 2L);
    }
}
