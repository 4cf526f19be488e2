package tidybridge.service.live;

import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.records.Records;

/** Takes over what other nodes over the same records published, reverted or retired. */
final class OtherNodes implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(OtherNodes.class);

    /** How often it is looked whether another node changed what should be live. */
    private static final long LOOK_MILLIS = 400;

    /** How often a release is tried again that another node serves and this one cannot. */
    private static final long CATCH_UP_SECONDS = 5;

    private final LiveModules modules;
    private final Records records;
    private final ScheduledExecutorService looking = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("live-look").factory());
    private boolean answers = true;

    OtherNodes(LiveModules modules, Records records) {
        this.modules = modules;
        this.records = records;
    }

    void begin() {
        looking.scheduleWithFixedDelay(this::look, LOOK_MILLIS, LOOK_MILLIS, TimeUnit.MILLISECONDS);
        looking.scheduleWithFixedDelay(this::catchUp, CATCH_UP_SECONDS, CATCH_UP_SECONDS, TimeUnit.SECONDS);
    }

    private void look() {
        try {
            modules.catchUp();
            answers = true;
        } catch (RuntimeException e) {
            if (answers) {
                LOG.warn("Whether another node changed what is live cannot be looked at: {}", e.getMessage());
            }
            answers = false;
        }
    }

    private void catchUp() {
        try {
            if (modules.now().modules().stream().anyMatch(LiveModule::isBehind)) {
                modules.reconcile();
            }
        } catch (RuntimeException e) {
            LOG.warn("What this node is behind with cannot be tried again: {}", e.getMessage());
        }
    }

    @Override
    public void close() {
        looking.shutdownNow();
    }
}
