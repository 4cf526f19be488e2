package tidybridge.service.gateway;

import java.nio.charset.StandardCharsets;

/** Values of the data made fit for header fields. */
final class HeaderValues {

    private HeaderValues() {}

    /** A value of the data must not begin another header field. */
    static String safe(String value) {
        byte[] bytes = value.strip().getBytes(StandardCharsets.UTF_8);
        StringBuilder safe = new StringBuilder(bytes.length);
        for (byte b : bytes) {
            safe.append(b < ' ' || b == 0x7f ? ' ' : (char) b);
        }
        return safe.toString();
    }
}
