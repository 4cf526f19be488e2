package tidybridge.core.route;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** Percent-encoding of RFC 3986. */
public final class PathText {

    private PathText() {}

    /**
     * Decodes a part of a URL as UTF-8.
     *
     * @param plusIsSpace true in a query string, where forms write a space as a plus sign
     * @return the text, or null when it is malformed
     */
    public static @Nullable String decode(String text, int start, int end, boolean plusIsSpace) {
        int i = start;
        while (i < end && text.charAt(i) != '%' && !(plusIsSpace && text.charAt(i) == '+')) {
            i++;
        }
        return i == end ? text.substring(start, end) : decodeSlowly(text, start, end, plusIsSpace);
    }

    private static @Nullable String decodeSlowly(String text, int start, int end, boolean plusIsSpace) {
        byte[] source = text.substring(start, end).getBytes(StandardCharsets.UTF_8);
        ByteBuffer bytes = ByteBuffer.allocate(source.length);
        for (int i = 0; i < source.length; i++) {
            byte b = source[i];
            if (b == '%') {
                int value = i + 2 < source.length ? hex(source[i + 1], source[i + 2]) : -1;
                if (value < 0) {
                    return null;
                }
                bytes.put((byte) value);
                i += 2;
            } else {
                bytes.put(plusIsSpace && b == '+' ? (byte) ' ' : b);
            }
        }
        try {
            return StandardCharsets.UTF_8.newDecoder().decode(bytes.flip()).toString();
        } catch (CharacterCodingException e) {
            return null;
        }
    }

    /** Decodes the percent-encodings of unreserved chars, which mean the same either way; the rest stays as it is. */
    public static String normalize(String path) {
        if (path.indexOf('%') < 0) {
            return path;
        }
        StringBuilder text = new StringBuilder(path.length());
        for (int i = 0; i < path.length(); i++) {
            char c = path.charAt(i);
            int value =
                    c == '%' && i + 2 < path.length() ? hex((byte) path.charAt(i + 1), (byte) path.charAt(i + 2)) : -1;
            if (value >= 0 && isUnreserved(value)) {
                text.append((char) value);
                i += 2;
            } else {
                text.append(c);
            }
        }
        return text.toString();
    }

    private static boolean isUnreserved(int c) {
        return c < 128 && (Character.isLetterOrDigit(c) || c == '-' || c == '.' || c == '_' || c == '~');
    }

    private static int hex(byte high, byte low) {
        int a = Character.digit(high, 16);
        int b = Character.digit(low, 16);
        return a < 0 || b < 0 ? -1 : a * 16 + b;
    }
}
