package tidybridge.core.definition;

import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.Admission;
import tidybridge.core.access.CrossOrigin;
import tidybridge.core.access.Quota;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads from where, how and how often something may be called. */
final class AdmissionReader {

    static final List<String> CROSS_ORIGIN_KEYS = List.of("origins", "credentials", "expose", "keep");
    static final List<String> QUOTA_KEYS = List.of("calls", "per", "concurrent", "together");
    private static final String REQUIRED = "required";

    private final Findings findings;

    AdmissionReader(Findings findings) {
        this.findings = findings;
    }

    /** What a module says. */
    Admission read(MappingReader keys) {
        return new Admission(addresses(keys), tls(keys), crossOrigin(keys), quota(keys));
    }

    private static boolean tls(MappingReader keys) {
        String tls = keys.text("tls");
        if (tls != null && !tls.equals(REQUIRED)) {
            keys.unfit("tls", "can only be 'required'", "Write 'tls: required', or remove the key.");
        }
        return tls != null;
    }

    /** What {@code quota} says, of a module or of an operation; null for nothing. */
    @Nullable
    Quota quota(MappingReader keys) {
        Node node = keys.node("quota");
        return node == null
                ? null
                : MappingReader.open(node, "a quota", findings, QUOTA_KEYS)
                        .map(AdmissionReader::quotaOf)
                        .orElse(null);
    }

    private static @Nullable Quota quotaOf(MappingReader keys) {
        Integer calls = keys.wholeNumber("calls", 1, Quota.MOST_CALLS);
        Integer concurrent = keys.wholeNumber("concurrent", 1, Quota.MOST_CONCURRENT);
        Duration per = keys.duration("per", Quota.USUALLY_PER, Quota.LONGEST_PER);
        boolean together = keys.flag("together");
        if (!Quota.isWindow(per)) {
            keys.unfit(
                    "per",
                    "must be whole seconds that fit into a day without a rest",
                    "Write it as '10s', '1m', '15m', '60m' or '1440m'.");
            return null;
        }
        if (keys.node("per") != null && keys.node("calls") == null) {
            keys.unfit("per", "stands without 'calls'", "Say how many calls it is for, as in 'calls: 1000'.");
        }
        if (keys.node("calls") == null && keys.node("concurrent") == null) {
            keys.required("calls", "Add 'calls: 1000', or 'concurrent: 10', or both.");
        }
        return calls == null && concurrent == null
                ? null
                : new Quota(calls == null ? 0 : calls, per, concurrent == null ? 0 : concurrent, together);
    }

    /** The networks of {@code addresses}; everywhere when nothing is said. */
    private AddressList addresses(MappingReader keys) {
        List<String> networks = new ArrayList<>();
        for (Node.Scalar scalar : keys.texts("addresses")) {
            if (AddressList.isNetwork(scalar.text())) {
                networks.add(scalar.text());
            } else {
                findings.add(
                        Code.VALUE_UNFIT,
                        scalar.place(),
                        "The key 'addresses' holds what is no network.",
                        "Write it in figures, as in '10.0.0.0/8', '2001:db8::/32' or '192.0.2.7'.");
            }
        }
        if (keys.node("addresses") instanceof Node.Sequence none && none.items().isEmpty()) {
            keys.unfit("addresses", "names no network", "Name one, as in 'addresses: 10.0.0.0/8', or remove the key.");
        }
        return AddressList.of(networks);
    }

    /** What {@code cross-origin} says; null for nothing. */
    private @Nullable CrossOrigin crossOrigin(MappingReader keys) {
        Node node = keys.node("cross-origin");
        return node == null
                ? null
                : MappingReader.open(node, "cross-origin", findings, CROSS_ORIGIN_KEYS)
                        .map(this::crossOriginOf)
                        .orElse(null);
    }

    private CrossOrigin crossOriginOf(MappingReader keys) {
        boolean credentials = keys.flag("credentials");
        Set<String> origins = new LinkedHashSet<>();
        if (keys.node("origins") == null) {
            keys.required("origins", "Add 'origins: [https://quays.marrowby.example]'.");
        }
        for (Node.Scalar scalar : keys.texts("origins")) {
            if (!CrossOrigin.isOrigin(scalar.text()) && !scalar.text().equals(CrossOrigin.ANY)) {
                findings.add(
                        Code.VALUE_UNFIT,
                        scalar.place(),
                        "The key 'origins' holds what is no origin.",
                        "Write scheme, host and port in lower case, with nothing behind: 'https://quays.marrowby.example'.");
            } else {
                origins.add(scalar.text());
            }
        }
        if (credentials && origins.contains(CrossOrigin.ANY)) {
            keys.unfit(
                    "origins",
                    "is every origin, to which no credentials are given",
                    "Name the origins, or remove 'credentials'.");
        }
        List<String> expose = new ArrayList<>();
        for (Node.Scalar scalar : keys.texts("expose")) {
            if (scalar.text().matches("[A-Za-z][A-Za-z0-9-]{0,99}")) {
                expose.add(scalar.text());
            } else {
                findings.add(
                        Code.VALUE_UNFIT,
                        scalar.place(),
                        "The key 'expose' holds what is no header field's name.",
                        "Write a name such as 'X-Berths-Left'.");
            }
        }
        return new CrossOrigin(
                origins,
                credentials,
                expose,
                keys.duration("keep", CrossOrigin.USUALLY_KEPT, CrossOrigin.LONGEST_KEPT));
    }
}
