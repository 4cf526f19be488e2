package tidybridge.service.live;

import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.plan.ModulePlan;

/** Writes the reference of large modules in the background, so that who asks for it first does not wait. Used by one thread. */
final class EarlyReferences {

    private static final Logger LOG = LoggerFactory.getLogger(EarlyReferences.class);

    /** From so many operations on it takes longer than somebody waits gladly. */
    private static final int LARGE = 200;

    private @Nullable Live written;

    /** Writes what is new among what is live. */
    void write(Live live) {
        if (live == written) {
            return;
        }
        try {
            live.modules().forEach(EarlyReferences::write);
            written = live;
        } catch (RuntimeException e) {
            LOG.error("The reference of a large module could not be written", e);
        }
    }

    private static void write(LiveModule module) {
        ModulePlan plan = module.plan();
        ReferenceFiles reference = module.reference();
        if (plan != null && reference != null && plan.operations().count() >= LARGE) {
            reference.json();
            reference.yaml();
        }
    }
}
