package tidybridge.service.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpFilter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.Set;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.Problems;
import tidybridge.service.capacity.BodyIntake;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.capacity.HeldRequest;
import tidybridge.service.run.Refusal;

/**
 * Guards the management API: from where {@link DeskReach} says, for nobody unknown, and for changes by cookie only from the console's own
 * pages. What each operation asks of its caller besides is for {@link DeskPrivileges}.
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

    /** From so many bytes on a body waits for its turn. */
    private static final int LARGE = 256 * 1024;

    private static final Duration PATIENCE = Duration.ofSeconds(15);

    /** One large text at a time for so much heap, in bytes. */
    private static final long HEAP_OF_LARGE = 256L * 1024 * 1024;

    private static final Set<String> METHODS = Set.of("GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS");

    private final transient Gatekeeper gatekeeper;
    private final transient DeskRefusals refusals;
    private final transient DeskReach reach;
    private final transient BytesInFlight bytes;
    private final transient Semaphore large =
            new Semaphore((int) Math.max(1, Runtime.getRuntime().maxMemory() / HEAP_OF_LARGE), true);

    public DeskFilter(Gatekeeper gatekeeper, DeskReach reach, BytesInFlight bytes, DeskRefusals refusals) {
        this.gatekeeper = gatekeeper;
        this.refusals = refusals;
        this.reach = reach;
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
        if (!BodyIntake.hasBody(request) || isSheet(request)) {
            chain.doFilter(request, response);
            return;
        }
        try (BytesInFlight.Share share = bytes.share()) {
            byte[] body = BodyIntake.read(request, isSignIn(request) ? LARGEST_SIGN_IN : LARGEST_BODY, share);
            HeldRequest held = new HeldRequest(request, body);
            if (body.length <= LARGE) {
                chain.doFilter(held, response);
            } else {
                passInTurn(held, response, chain);
            }
        }
    }

    /** What is made of a large text takes many times its room, so that only few are worked on at a time. */
    private void passInTurn(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException, Refusal {
        boolean turn;
        try {
            turn = large.tryAcquire(PATIENCE.toMillis(), TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            turn = false;
        }
        if (!turn) {
            throw new Refusal(
                    ProblemKind.BUSY,
                    "Other large texts are being worked on at this moment; send it again in a moment.");
        }
        try {
            chain.doFilter(request, response);
        } finally {
            large.release();
        }
    }

    private void admit(HttpServletRequest request) throws Refusal {
        reach.check(request);
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

    /** A sheet is read while it comes, by whoever may load it, and never held in memory. */
    private static boolean isSheet(HttpServletRequest request) {
        return request.getRequestURI().startsWith("/desk/sheets/");
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
