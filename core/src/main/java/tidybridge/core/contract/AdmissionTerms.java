package tidybridge.core.contract;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Quota;

/**
 * From where, how and how often a module may be called.
 *
 * @param addresses networks in CIDR notation; empty for every address
 * @param tls true when it is called over transport security only
 * @param origins whose pages may call it from a browser, in the order of their names; empty for none
 * @param quota null for as often as anybody likes
 */
public record AdmissionTerms(
        List<String> addresses,
        boolean tls,
        List<String> origins,
        @Nullable Quota quota) {
    public AdmissionTerms {
        addresses = List.copyOf(addresses);
        origins = List.copyOf(origins);
    }
}
