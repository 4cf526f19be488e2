package tidybridge.core.notice;

import java.util.regex.Pattern;

/**
 * Addresses of mail, as people have them: an {@code addr-spec} of RFC 5322 without quotes and comments, so that nothing in it means more than
 * itself in the field of a message.
 */
public final class MailAddress {

    /** The longest, in chars (RFC 5321, 4.5.3.1). */
    public static final int LONGEST = 254;

    private static final String LABEL = "[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?";
    private static final Pattern FORM =
            Pattern.compile("[A-Za-z0-9!#$%&'*+/=?^_`{|}~-]{1,64}(?:\\.[A-Za-z0-9!#$%&'*+/=?^_`{|}~-]{1,64}){0,8}@"
                    + LABEL + "(?:\\." + LABEL + "){0,8}");

    private MailAddress() {}

    /** True for {@code harbour.apps@marrowby.example}. */
    public static boolean isOne(String text) {
        return text.length() <= LONGEST && FORM.matcher(text).matches();
    }
}
