package tidybridge.service.live;

import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.UnaryOperator;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.page.Continuation;

/**
 * What is live in this node, as one immutable value that requests read, and how it is put in place of another. Thread-safe: nobody who reads
 * waits for anybody.
 */
final class InPlace {

    private final Continuation continuation;
    private final MaskKey maskKey;
    private final AtomicLong tickets = new AtomicLong();
    private long taken;
    private volatile long change = -1;
    private volatile Map<String, RetiredModule> retired = Map.of();
    private volatile Live live;

    InPlace(Continuation continuation, MaskKey maskKey) {
        this.continuation = continuation;
        this.maskKey = maskKey;
        this.live = new Live(List.of(), retired, continuation, maskKey);
    }

    Live live() {
        return live;
    }

    /** What is not live any more, by identity. */
    Map<String, RetiredModule> retired() {
        return retired;
    }

    /** The number of the newest change of what should be live that is in place; negative at first. */
    long change() {
        return change;
    }

    /** Whoever wants to put something in place takes one before they read what should be there. */
    long ticket() {
        return tickets.incrementAndGet();
    }

    /** Puts everything in place, unless somebody with a later ticket has. False when it stayed as it was. */
    synchronized boolean put(long ticket, long newest, List<LiveModule> modules, Map<String, RetiredModule> gone) {
        if (ticket <= taken) {
            return false;
        }
        taken = ticket;
        retired = gone;
        install(modules.stream().map(this::latest).toList());
        // last, because whoever reads it takes what is in place for as new
        change = newest;
        return true;
    }

    /** The module as it is in place already, with what was noted of it meanwhile; a new one as it is. */
    private LiveModule latest(LiveModule module) {
        LiveModule now = live.module(module.identity());
        if (now == null || module.isBehind() || now.isBehind()) {
            return module;
        }
        boolean isCompiledMeanwhile = module.state() == LiveModule.State.PENDING
                && now.release().id() == module.release().id();
        return isCompiledMeanwhile || now.plan() != null && now.plan() == module.plan() ? now : module;
    }

    /** Changes modules in place, each by itself. */
    synchronized void change(UnaryOperator<LiveModule> work) {
        install(live.modules().stream().map(work).toList());
    }

    private void install(List<LiveModule> modules) {
        live = new Live(modules, retired, continuation, maskKey);
    }
}
