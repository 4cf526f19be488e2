package tidybridge.core.access;

import java.util.regex.Pattern;

/** The names of privileges: words with dots between them, {@code moorings.book}. As an OAuth scope (RFC 6749, 3.3) a name is itself. */
public final class Privilege {

    /** The longest name, in chars. */
    public static final int LONGEST = 100;

    /** What the service's own privileges begin with. */
    public static final String OWN = "tidy.";

    private static final String WORD = "[a-z][a-z0-9-]*";
    private static final Pattern NAME = Pattern.compile(WORD + "(\\." + WORD + ")*");
    private static final String OF_GROUP = ".*";

    private Privilege() {}

    /** True for {@code moorings.book}. */
    public static boolean isName(String text) {
        return text.length() <= LONGEST && NAME.matcher(text).matches();
    }

    /** True for {@code moorings.*}, which is every privilege whose name begins with {@code moorings.}. */
    public static boolean isGroup(String text) {
        return text.endsWith(OF_GROUP) && isName(text.substring(0, text.length() - OF_GROUP.length()));
    }

    /** True for the service's own, {@code tidy.publish}, and for a group of them. */
    public static boolean isOwn(String text) {
        return text.startsWith(OWN);
    }
}
