package tidybridge.service.gateway;

import java.time.ZoneOffset;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Deprecation;

/** Tells callers the moment from which an operation may be gone (RFC 8594). */
final class EndOfLife {

    private EndOfLife() {}

    static void announce(@Nullable Deprecation deprecated, Exchange exchange) {
        if (deprecated != null && deprecated.ends() != null) {
            exchange.header("Sunset", HttpTimes.write(deprecated.ends().atStartOfDay(ZoneOffset.UTC)));
        }
    }
}
