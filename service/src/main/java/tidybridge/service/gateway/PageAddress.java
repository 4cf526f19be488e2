package tidybridge.service.gateway;

import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Binder;

/** The address of another page: the address of this one that begins elsewhere. */
final class PageAddress {

    private static final String[] AFTER = {Binder.AFTER + "="};
    private static final String[] EVERY_START = {
        Binder.AFTER + "=", Binder.BEFORE + "=", Binder.FROM + "=", Binder.LAST + "="
    };

    private PageAddress() {}

    /**
     * The address.
     *
     * @param jumps whether the collection has more ways to begin than {@code after}
     * @param parameter says where it begins
     * @param position null for the first page
     */
    static String of(String path, @Nullable String query, boolean jumps, String parameter, @Nullable String position) {
        StringBuilder address = new StringBuilder(path.length() + (position == null ? 0 : position.length()) + 64);
        address.append(path);
        String[] starts = jumps ? EVERY_START : AFTER;
        char separator = '?';
        int start = 0;
        while (query != null && start < query.length()) {
            int end = query.indexOf('&', start);
            end = end < 0 ? query.length() : end;
            if (end > start && !begins(query, start, starts)) {
                append(address.append(separator), query, start, end);
                separator = '&';
            }
            start = end + 1;
        }
        return position == null
                ? address.toString()
                : address.append(separator)
                        .append(parameter)
                        .append('=')
                        .append(position)
                        .toString();
    }

    private static boolean begins(String query, int at, String[] starts) {
        for (String start : starts) {
            if (query.startsWith(start, at)) {
                return true;
            }
        }
        return false;
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
