package tidybridge.service.live;

import java.util.List;

/** What a path leads to. */
public sealed interface Target {

    /** Operations that read; {@code allow} is the value of the Allow field. */
    record Operations(LiveModule module, Running get, String allow) implements Target {}

    /** A module's reference. */
    record Reference(LiveModule module, boolean yaml) implements Target {}

    /** Every method the gateway answers on a reference. */
    List<String> READING = List.of("GET", "HEAD", "OPTIONS");
}
