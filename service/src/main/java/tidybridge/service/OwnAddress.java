package tidybridge.service;

import jakarta.servlet.http.HttpServletRequest;

/** Where the service is for a caller; behind a proxy that is trusted, as the proxy says. */
public final class OwnAddress {

    private static final int HTTP = 80;
    private static final int HTTPS = 443;

    private OwnAddress() {}

    /** {@code https://bridge.marrowby.example}, without a slash at its end. */
    public static String of(HttpServletRequest request) {
        int port = request.getServerPort();
        boolean usual = request.isSecure() ? port == HTTPS : port == HTTP;
        return request.getScheme() + "://" + request.getServerName() + (usual ? "" : ":" + port);
    }
}
