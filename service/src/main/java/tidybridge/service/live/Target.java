package tidybridge.service.live;

import java.util.List;
import java.util.Map;
import tidybridge.core.definition.Method;
import tidybridge.service.run.RunnableOperation;

/** What a path leads to. */
public sealed interface Target {

    LiveModule module();

    /** The operations of a route by their methods; {@code allow} is the value of the Allow field. */
    record Operations(LiveModule module, Map<Method, RunnableOperation> byMethod, String allow) implements Target {}

    /**
     * What happened to a module.
     *
     * @param all its major versions, those that are retired among them; the last one that is live is {@code module}
     */
    record Changes(LiveModule module, List<LiveModule> all, boolean atom) implements Target {
        public Changes {
            all = List.copyOf(all);
        }
    }

    /** A module's reference. */
    record Reference(LiveModule module, boolean yaml) implements Target {}

    /** Every method the gateway answers on a reference. */
    List<String> READING = List.of("GET", "HEAD", "OPTIONS");
}
