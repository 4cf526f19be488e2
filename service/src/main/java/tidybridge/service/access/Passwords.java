package tidybridge.service.access;

import com.nulabinc.zxcvbn.Strength;
import com.nulabinc.zxcvbn.Zxcvbn;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.run.Refusal;

/**
 * Hashes passwords with Argon2id (RFC 9106) and says which are too weak. Each comparison takes 16 MiB and about a tenth of a
 * second, so they run one after another. Thread-safe.
 */
final class Passwords {

    /** The shortest, in characters. */
    static final int SHORTEST = 10;

    /** The longest, in characters. */
    static final int LONGEST = 200;

    private static final int SALT_BYTES = 16;
    private static final int HASH_BYTES = 32;
    private static final int LANES = 1;

    /** One, so that whoever tries passwords keeps no more than one processor busy. */
    private static final int AT_ONCE = 1;

    private static final String NO_LETTERS = "[^\\p{L}\\p{N}]+";
    private static final long PATIENCE_SECONDS = 3;

    /** Of five grades from 0: below it a password is guessed in less than a million tries. */
    private static final int WEAKEST = 2;

    /** More of it would make no difference to the grade, and cost more than linear time. */
    private static final int GRADED = 64;

    private final Argon2PasswordEncoder encoder;
    private final Semaphore turns = new Semaphore(AT_ONCE, true);
    private final String nobody;

    Passwords(HashCost cost) {
        this.encoder = new Argon2PasswordEncoder(SALT_BYTES, HASH_BYTES, LANES, cost.memoryKib(), cost.passes());
        this.nobody = hashOfNobody(cost);
    }

    /** Compared with as long as any other; it is no password's hash, so that none need be computed for it. */
    private static String hashOfNobody(HashCost cost) {
        SecureRandom random = new SecureRandom();
        byte[] salt = new byte[SALT_BYTES];
        byte[] hash = new byte[HASH_BYTES];
        random.nextBytes(salt);
        random.nextBytes(hash);
        Base64.Encoder base64 = Base64.getEncoder().withoutPadding();
        return "$argon2id$v=19$m=" + cost.memoryKib() + ",t=" + cost.passes() + ",p=" + LANES + "$"
                + base64.encodeToString(salt) + "$" + base64.encodeToString(hash);
    }

    /**
     * Compares a password with a hash.
     *
     * @param hash null for somebody unknown, or without a password: it takes as long
     * @throws Refusal when too many compare at once
     */
    boolean fits(String password, @Nullable String hash) throws Refusal {
        return hash == null
                ? inTurn(() -> encoder.matches(password, nobody)) && false
                : inTurn(() -> encoder.matches(password, hash));
    }

    String hash(String password) throws Refusal {
        return inTurn(() -> encoder.encode(password));
    }

    private interface Work<T> {
        T run();
    }

    private <T> T inTurn(Work<T> work) throws Refusal {
        try {
            if (!turns.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
                throw new Refusal(ProblemKind.BUSY, "Many are signing in at once; try again in a moment.");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new Refusal(ProblemKind.BUSY, "The service is stopping.");
        }
        try {
            return work.run();
        } finally {
            turns.release();
        }
    }

    /**
     * What is wrong with a new password.
     *
     * @param about the person's names, which somebody would try first
     * @return a sentence with what to do; null for a good one
     */
    @Nullable
    String weakness(String password, List<String> about) {
        int length = password.codePointCount(0, password.length());
        if (length < SHORTEST) {
            return "The password must have at least " + SHORTEST + " characters.";
        }
        if (length > LONGEST) {
            return "The password must have at most " + LONGEST + " characters.";
        }
        List<String> words = new ArrayList<>(List.of("tidy", "bridge", "tidybridge"));
        for (String name : about) {
            String lower = name.toLowerCase(Locale.ROOT);
            words.add(lower);
            words.add(lower.replaceAll(NO_LETTERS, ""));
            words.addAll(List.of(lower.split(NO_LETTERS)));
        }
        Strength strength = Grader.OF_ALL.measure(password.substring(0, Math.min(password.length(), GRADED)), words);
        return strength.getScore() < WEAKEST
                ? "This password is among the first that are tried; take several words that nobody connects with you."
                : null;
    }

    /** Its lists of words are read when a password is first chosen, and not at each start. */
    private static final class Grader {
        static final Zxcvbn OF_ALL = new Zxcvbn();
    }
}
