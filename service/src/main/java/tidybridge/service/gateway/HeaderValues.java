package tidybridge.service.gateway;

import java.nio.charset.StandardCharsets;

/** Values of the data made fit for header fields. */
final class HeaderValues {

    private static final byte DELETE = 0x7f;

    private HeaderValues() {}

    /** A value of the data in UTF-8, which must not begin another header field. A server writes each char as one byte. */
    static String safe(String value) {
        byte[] bytes = value.strip().getBytes(StandardCharsets.UTF_8);
        StringBuilder safe = new StringBuilder(bytes.length);
        for (byte b : bytes) {
            safe.append(b >= 0 && b < ' ' || b == DELETE ? ' ' : (char) (b & 0xff));
        }
        return safe.toString();
    }
}
