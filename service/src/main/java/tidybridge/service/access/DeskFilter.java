package tidybridge.service.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpFilter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.InetAddress;
import java.util.List;
import java.util.Set;
import tidybridge.core.access.AddressList;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.Problems;
import tidybridge.service.capacity.BodyIntake;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.capacity.HeldRequest;
import tidybridge.service.run.Refusal;

/**
 * Guards the management API: only from this machine and under a loopback name (so that no foreign page can reach it by a name of its own), or
 * over transport security from networks that the settings name, for nobody unknown, and for changes by cookie only from the console's own pages. What each operation asks of its caller besides
 * is for {@link DeskPrivileges}.
 */
public final class DeskFilter extends HttpFilter {

    /** What whoever is not signed in yet may call, by POST. */
    private static final Set<String> TO_SIGN_IN = Set.of("/desk/sessions", "/desk/sign-in-codes/look");

    /** The same, by GET. */
    private static final Set<String> AT_PROVIDER =
            Set.of("/desk/provider", "/desk/provider/begin", "/desk/provider/back");

    /** Whoever is not signed in yet has little to say, in bytes. */
    private static final int LARGEST_SIGN_IN = 4 * 1024;

    /** All texts of a large workspace together, in bytes. */
    private static final int LARGEST_BODY = 8 * 1024 * 1024;

    private static final Set<String> METHODS = Set.of("GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS");

    private final transient Gatekeeper gatekeeper;
    private final transient DeskRefusals refusals;
    private final transient List<String> networks;
    private final transient AddressList from;
    private final transient BytesInFlight bytes;

    /** @param networks that it may be called from over transport security, beside this machine */
    public DeskFilter(Gatekeeper gatekeeper, List<String> networks, BytesInFlight bytes, DeskRefusals refusals) {
        this.gatekeeper = gatekeeper;
        this.refusals = refusals;
        this.networks = List.copyOf(networks);
        this.from = AddressList.of(networks);
        this.bytes = bytes;
    }

    @Override
    protected void doFilter(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        response.setHeader("Cache-Control", "no-store");
        try {
            admit(request);
        } catch (Refusal e) {
            String method = METHODS.contains(request.getMethod()) ? request.getMethod() : "a call of";
            refusals.note(request, response, Visitor.of(request), method + " /desk", e);
            Problems.write(response, e);
            return;
        }
        try {
            pass(request, response, chain);
        } catch (Refusal e) {
            Problems.write(response, e);
        }
    }

    private void pass(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException, Refusal {
        if (!BodyIntake.hasBody(request)) {
            chain.doFilter(request, response);
            return;
        }
        try (BytesInFlight.Share share = bytes.share()) {
            byte[] body = BodyIntake.read(request, isSignIn(request) ? LARGEST_SIGN_IN : LARGEST_BODY, share);
            chain.doFilter(new HeldRequest(request, body), response);
        }
    }

    private void admit(HttpServletRequest request) throws IOException, Refusal {
        boolean here = InetAddress.getByName(request.getRemoteAddr()).isLoopbackAddress()
                && HostNames.isLoopback(request.getServerName());
        if (!here) {
            admitFromElsewhere(request);
        }
        Visitor visitor = gatekeeper.identify(request);
        visitor.note(request);
        boolean trusted = visitor.caller().isKnown() && !visitor.byCookie();
        if (!trusted && !OwnPages.isSafe(request.getMethod()) && !isOwnPage(request)) {
            throw new Refusal(
                    ProblemKind.NOT_ALLOWED,
                    "A change must come from the console's own pages, or carry a token as 'Authorization: Bearer ...'.");
        }
        boolean atProvider = OwnPages.isSafe(request.getMethod()) && AT_PROVIDER.contains(request.getRequestURI());
        if (!visitor.caller().isKnown() && !isSignIn(request) && !atProvider) {
            throw DeskPrivileges.unknown();
        }
    }

    private void admitFromElsewhere(HttpServletRequest request) throws Refusal {
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

    private static boolean isSignIn(HttpServletRequest request) {
        return request.getMethod().equals("POST") && TO_SIGN_IN.contains(request.getRequestURI());
    }

    /** Browsers send Origin with every unsafe request; whoever signs in may be no browser. */
    private static boolean isOwnPage(HttpServletRequest request) {
        String origin = request.getHeader("Origin");
        return origin == null ? isSignIn(request) : OwnPages.isOwnOrigin(origin, request);
    }
}
