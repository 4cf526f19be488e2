package tidybridge.service.gateway;

import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Binder;

/** The address of the next page: the address of this one with another {@code after}. */
final class NextAddress {

    private static final String AFTER = Binder.AFTER + "=";

    private NextAddress() {}

    static String of(String path, @Nullable String query, String after) {
        StringBuilder address = new StringBuilder(path.length() + after.length() + 64);
        address.append(path).append('?');
        if (query != null) {
            int start = 0;
            while (start < query.length()) {
                int end = query.indexOf('&', start);
                end = end < 0 ? query.length() : end;
                if (end > start && !query.startsWith(AFTER, start)) {
                    append(address, query, start, end);
                    address.append('&');
                }
                start = end + 1;
            }
        }
        return address.append(AFTER).append(after).toString();
    }

    /** Brackets are taken as callers write them, but stand in no address (RFC 3986). */
    private static void append(StringBuilder address, String query, int start, int end) {
        for (int i = start; i < end; i++) {
            char c = query.charAt(i);
            switch (c) {
                case '[' -> address.append("%5B");
                case ']' -> address.append("%5D");
                default -> address.append(c);
            }
        }
    }
}
