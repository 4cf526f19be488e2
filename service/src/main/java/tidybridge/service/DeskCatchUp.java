package tidybridge.service;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.web.servlet.HandlerInterceptor;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.Visitor;
import tidybridge.service.live.LiveModules;

/**
 * Whoever changes something through one node and then asks another sees it: before a call of the management API is answered, the node takes
 * over what others changed. That costs two short looks at the records; while those do not answer, a call goes on with what is known. Just
 * after the start a call waits until everything is compiled.
 */
final class DeskCatchUp implements HandlerInterceptor {

    private static final Logger LOG = LoggerFactory.getLogger(DeskCatchUp.class);

    /** A look takes about a millisecond; one that takes longer than this may take for ever. */
    private static final long PATIENCE_MILLIS = 500;

    /** Where a look found something, it is compiled before the call is answered. That waits for the sources, but not for ever. */
    private static final long COMPILING_MILLIS = 5_000;

    /** Looks that do not come back must not hold more of the records' few connections. */
    private static final int MOST_LOOKS = 2;

    private final LiveAccess access;
    private final LiveModules modules;
    private final Semaphore looks = new Semaphore(MOST_LOOKS);

    DeskCatchUp(LiveAccess access, LiveModules modules) {
        this.access = access;
        this.modules = modules;
    }

    @Override
    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler)
            throws InterruptedException {
        if (Visitor.of(request).caller().isKnown()) {
            modules.whole();
            if (looks.tryAcquire(PATIENCE_MILLIS, TimeUnit.MILLISECONDS)) {
                CountDownLatch looked = new CountDownLatch(1);
                CountDownLatch taken = new CountDownLatch(1);
                Thread.ofVirtual().name("desk-look").start(() -> look(looked, taken));
                if (!looked.await(PATIENCE_MILLIS, TimeUnit.MILLISECONDS)
                        || !taken.await(COMPILING_MILLIS, TimeUnit.MILLISECONDS)) {
                    LOG.debug("A management call goes on with what is known here");
                }
            }
        }
        return true;
    }

    private void look(CountDownLatch looked, CountDownLatch taken) {
        try {
            access.catchUp();
            boolean others = modules.hasChangedElsewhere();
            looked.countDown();
            if (others) {
                modules.reconcile();
            }
        } catch (RuntimeException e) {
            LOG.debug("What other nodes changed cannot be taken over now", e);
        } finally {
            looks.release();
            looked.countDown();
            taken.countDown();
        }
    }
}
