package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.List;
import tidybridge.core.access.AddressList;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.run.Refusal;

/**
 * From where the management API is called: this machine, under a loopback name so that no foreign page can reach it by a name of its own, or
 * over transport security from networks that the settings name. Thread-safe.
 */
public final class DeskReach {

    private final List<String> networks;
    private final AddressList from;

    /** @param networks that it may be called from beside this machine */
    public DeskReach(List<String> networks) {
        this.networks = List.copyOf(networks);
        this.from = AddressList.of(networks);
    }

    /** @throws Refusal for a request that comes from elsewhere */
    void check(HttpServletRequest request) throws Refusal {
        if (isHere(request)) {
            return;
        }
        if (networks.isEmpty() || !from.contains(request.getRemoteAddr())) {
            throw new Refusal(
                    ProblemKind.NOT_ALLOWED,
                    networks.isEmpty()
                            ? "The management API answers on this machine only; call it as " + request.getScheme()
                                    + "://127.0.0.1 from there."
                            : "The management API does not answer to " + request.getRemoteAddr()
                                    + "; its owner can add the network to tidy.desk-from.");
        }
        if (!request.isSecure()) {
            throw new Refusal(
                    ProblemKind.TLS_NEEDED, "The management API answers other machines by https only; call it so.");
        }
    }

    private static boolean isHere(HttpServletRequest request) {
        try {
            return InetAddress.getByName(request.getRemoteAddr()).isLoopbackAddress()
                    && HostNames.isLoopback(request.getServerName());
        } catch (UnknownHostException e) {
            return false;
        }
    }

    /** True for a request that could call it. */
    boolean includes(HttpServletRequest request) {
        try {
            check(request);
            return true;
        } catch (Refusal e) {
            return false;
        }
    }
}
