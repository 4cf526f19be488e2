package tidybridge.service.access;

import java.util.Optional;
import javax.security.auth.x500.X500Principal;

/** The names that certificates are for, as texts (RFC 4514). However a name is written, it is the same name. */
final class Certificates {

    private static final int LONGEST_SUBJECT = 500;

    private Certificates() {}

    static boolean isSubject(String text) {
        return canonical(text).isPresent();
    }

    static boolean isSame(String one, String other) {
        return canonical(one).equals(canonical(other));
    }

    /** The one form by which names are compared; empty for what is no name. */
    static Optional<String> canonical(String text) {
        if (text.isBlank() || text.length() > LONGEST_SUBJECT || text.chars().anyMatch(Character::isISOControl)) {
            return Optional.empty();
        }
        try {
            return Optional.of(subjectOf(new X500Principal(text)));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    static String subjectOf(X500Principal subject) {
        return subject.getName(X500Principal.CANONICAL);
    }
}
