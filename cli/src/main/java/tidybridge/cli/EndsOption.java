package tidybridge.cli;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** {@code --ends 2031-09-30} */
final class EndsOption {

    @Option(
            names = "--ends",
            paramLabel = "DATE",
            description = "The last day on which it is valid, in UTC; it has no end unless given.")
    private @Nullable LocalDate ends;

    /** Puts the moment after that day into a request, if there is one. */
    void put(Map<String, Object> request) {
        if (ends != null) {
            request.put(
                    "endsAt",
                    ends.plusDays(1).atStartOfDay(ZoneOffset.UTC).toInstant().toString());
        }
    }
}
