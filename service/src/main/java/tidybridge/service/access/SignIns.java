package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AuditEntry;
import tidybridge.records.Person;
import tidybridge.records.Session;
import tidybridge.records.SignInCodes;
import tidybridge.service.capacity.LineLimit;
import tidybridge.service.run.Refusal;

/** Signing in and out, and what people sign in with. Thread-safe. */
public final class SignIns {

    private static final Logger LOG = LoggerFactory.getLogger(SignIns.class);

    /** How long a browser stays signed in. */
    public static final Duration CONSOLE_LIFE = Duration.ofHours(12);

    /** How long a command line stays signed in. */
    public static final Duration COMMAND_LINE_LIFE = Duration.ofDays(30);

    /** How long the administrator's printed link works. */
    public static final Duration LINK_LIFE = Duration.ofMinutes(15);

    /** How long somebody new has to choose a password. */
    public static final Duration INVITATION_LIFE = Duration.ofDays(3);

    private static final String HMAC = "HmacSHA256";

    private final LiveAccess access;
    private final Clock clock;
    private final SecureRandom random;
    private final byte[] deviceKey;
    private final DeskReach reach;
    private final Passwords passwords;
    private final Tries tries;
    private final LineLimit refusals = new LineLimit(30, Duration.ofMinutes(1));

    /**
     * Prepares sign-ins.
     *
     * @param deviceKey signs what browsers show that a person signed in with before
     */
    public SignIns(
            LiveAccess access, DeskReach reach, HashCost cost, Clock clock, SecureRandom random, byte[] deviceKey) {
        this.reach = reach;
        this.access = access;
        this.clock = clock;
        this.random = random;
        this.deviceKey = deviceKey.clone();
        this.passwords = new Passwords(cost);
        this.tries = new Tries(clock);
    }

    /** A session that was opened; the secret is shown once. */
    public record Opened(String secret, Session session) {}

    /**
     * What somebody shows who signs in by name.
     *
     * @param code of the second factor; null when none is shown
     * @param device what the browser kept of an earlier sign-in; null for none
     */
    public record Shown(
            String name,
            String password,
            @Nullable String code,
            @Nullable String device,
            String address) {}

    /**
     * Signs a person in.
     *
     * @throws Refusal when name, password or code are wrong, all with the same sentence but the code; or when tries were too many
     */
    public Opened byPassword(Shown shown, Session.Kind kind) throws Refusal {
        Tries.Try begun = tries.begin(shown.name(), shown.address(), isKnown(shown.device(), shown.name()));
        if (!begun.isAllowed()) {
            throw tooMany(begun.delay());
        }
        // the password may have been chosen on another node just now
        access.catchUp();
        Person person = access.now().person(shown.name());
        String hash = person == null || person.disabled() ? null : person.passwordHash();
        boolean fits = shown.password().length() <= 2 * Passwords.LONGEST && passwords.fits(shown.password(), hash);
        if (!fits || person == null) {
            // nothing of an unknown name is written down: it may be a password in the wrong field
            noteRefused(person == null ? "an unknown name" : person.name(), shown.address(), "wrong");
            throw new Refusal(ProblemKind.SIGN_IN_NEEDED, "Name or password is wrong.");
        }
        checkFactor(person, shown);
        begun.succeeded();
        return open(person.name(), kind, shown.address());
    }

    /**
     * Signs a person in on the pages of client teams. Whoever belongs to none can do so only from where the management API is called: their
     * password must not be worth trying from everywhere.
     */
    public Opened byPasswordOnSite(Shown shown, HttpServletRequest request) throws Refusal {
        Person person = access.now().person(shown.name());
        boolean elsewhere = (person == null || person.team() == null) && !reach.includes(request);
        return byPassword(
                elsewhere ? new Shown("", shown.password(), shown.code(), shown.device(), shown.address()) : shown,
                Session.Kind.CONSOLE);
    }

    private static Refusal tooMany(Duration wait) {
        return Refusal.until(
                ProblemKind.TOO_MANY_TRIES,
                "Signing in failed too often; wait " + Refusal.seconds(wait) + " seconds, then try again.",
                wait);
    }

    private void checkFactor(Person person, Shown shown) throws Refusal {
        String secret = person.factorSecret();
        if (secret == null) {
            return;
        }
        String code = shown.code();
        if (code == null || code.isBlank()) {
            throw new Refusal(ProblemKind.FACTOR_NEEDED, "Enter the code that your authenticator shows.");
        }
        long step = SecondFactor.step(secret, code.replace(" ", ""), clock.instant());
        if (step < 0 || !access.records().useFactor(person.name(), step)) {
            noteRefused(person.name(), shown.address(), "wrong code");
            throw new Refusal(
                    ProblemKind.FACTOR_NEEDED, "The code is wrong or was used before; wait for the next one.");
        }
    }

    /** Opens a session for whoever showed the administrator's token. */
    public Opened byAdministrator(Session.Kind kind, String address) {
        return open(null, kind, address);
    }

    private Opened open(@Nullable String person, Session.Kind kind, String address) {
        IssuedSecret secret = IssuedSecret.make(IssuedSecret.Kind.SESSION, random);
        Instant now = clock.instant();
        Duration life = kind == Session.Kind.CONSOLE ? CONSOLE_LIFE : COMMAND_LINE_LIFE;
        Session session = new Session(secret.id(), person, kind, secret.hash(), now, now.plus(life), now, address);
        String who = person == null ? Identity.ADMINISTRATOR.name() : person;
        access.change(records -> records.open(session, entry(who, address, "sign-in", who, label(kind))));
        return new Opened(secret.text(), session);
    }

    /** Opens a session in the browser of somebody who showed otherwise who they are. */
    Opened opened(String person, String address) {
        return open(person, Session.Kind.CONSOLE, address);
    }

    /** Ends a session of somebody's own, or of another's; false when there is none. */
    public boolean end(Session session, Visitor by) {
        String whose = session.person() == null ? Identity.ADMINISTRATOR.name() : session.person();
        String detail = label(session.kind()) + " since " + session.openedAt();
        return access.changed(records -> records.end(session.id(), entry(by, "end-session", whose, detail)));
    }

    /**
     * Makes a code for a link.
     *
     * @param person who may choose a password with it; null for a link that signs the administrator in
     */
    public String code(@Nullable String person, Visitor by) {
        String code = IssuedSecret.unguessable(random);
        Duration life = person == null ? LINK_LIFE : INVITATION_LIFE;
        access.records()
                .codes()
                .add(
                        IssuedSecret.hash(code),
                        person,
                        clock.instant().plus(life),
                        entry(by, "make-link", person == null ? Identity.ADMINISTRATOR.name() : person, ""));
        return code;
    }

    /** Looks at a link's code without using it up. */
    public SignInCodes.Code look(String code) {
        return access.records().codes().look(IssuedSecret.hash(code), clock.instant());
    }

    /**
     * Signs in by a link's code, which is used up.
     *
     * @param password the one that the person chooses; null for the administrator's link
     */
    public Opened byCode(String code, @Nullable String password, String address) throws Refusal {
        SignInCodes.Code found = look(code);
        String person = found.person();
        if (!found.known()) {
            throw usedLink();
        }
        String hash = null;
        if (person != null) {
            if (password == null) {
                throw new Refusal(
                        ProblemKind.BAD_INPUT, "This link lets you choose a password; send it as 'password'.");
            }
            hash = hash(person, password);
        }
        if (!access.records().codes().use(IssuedSecret.hash(code))) {
            throw usedLink();
        }
        if (person != null && hash != null) {
            String kept = hash;
            access.change(records -> records.password(
                    person, kept, null, entry(person, address, "choose-password", person, "by a link")));
        }
        return open(person, Session.Kind.CONSOLE, address);
    }

    /** For a code that is unknown, used or too old. */
    public static Refusal usedLink() {
        return new Refusal(ProblemKind.SIGN_IN_NEEDED, "This link was used already or is too old; ask for a new one.");
    }

    private String hash(String name, String password) throws Refusal {
        Person person = access.now().person(name);
        return newHash(person == null ? List.of(name) : List.of(name, person.fullName()), password);
    }

    /**
     * What is kept of a password.
     *
     * @param names of whoever chose it, which it must not be made of
     * @throws Refusal when it is weak
     */
    String newHash(List<String> names, String password) throws Refusal {
        String weakness = passwords.weakness(password, names);
        if (weakness != null) {
            throw new Refusal(ProblemKind.BAD_INPUT, weakness);
        }
        return passwords.hash(password);
    }

    /** Changes somebody's own password; every other session of theirs ends. */
    public void changePassword(Visitor visitor, String old, String chosen) throws Refusal {
        Person person = person(visitor);
        prove(person, old, visitor);
        String hash = hash(person.name(), chosen);
        access.change(records -> records.password(
                person.name(), hash, kept(visitor), entry(visitor, "change-password", person.name(), "")));
    }

    private void prove(Person person, String password, Visitor visitor) throws Refusal {
        Tries.Try begun = tries.begin(person.name(), visitor.caller().address(), true);
        if (!begun.isAllowed()) {
            throw tooMany(begun.delay());
        }
        if (password.length() > 2 * Passwords.LONGEST || !passwords.fits(password, person.passwordHash())) {
            throw new Refusal(ProblemKind.BAD_INPUT, "The present password is wrong.");
        }
        begun.succeeded();
    }

    /** A new secret for an authenticator; nothing is kept of it until {@link #useFactor}. */
    public Factor newFactor(Visitor visitor) throws Refusal {
        Person person = person(visitor);
        String secret = SecondFactor.secret(random);
        return new Factor(secret, SecondFactor.address(person.name(), secret));
    }

    /** What an authenticator is told: the secret in Base32, and the same as an address. */
    public record Factor(String secret, String address) {}

    /** From now on the person signs in with a code as well; the first one proves that the authenticator is set up. */
    public void useFactor(Visitor visitor, String password, String secret, String code) throws Refusal {
        Person person = person(visitor);
        prove(person, password, visitor);
        if (!secret.matches("[A-Z2-7]{32}") || SecondFactor.step(secret, code.replace(" ", ""), clock.instant()) < 0) {
            throw new Refusal(
                    ProblemKind.BAD_INPUT, "The code does not fit; check the clock of the authenticator's device.");
        }
        access.change(records ->
                records.factor(person.name(), secret, kept(visitor), entry(visitor, "use-factor", person.name(), "")));
    }

    /** Signs in without a code again. */
    public void dropFactor(Visitor visitor, String password) throws Refusal {
        Person person = person(visitor);
        prove(person, password, visitor);
        access.change(records ->
                records.factor(person.name(), null, kept(visitor), entry(visitor, "drop-factor", person.name(), "")));
    }

    private Person person(Visitor visitor) throws Refusal {
        String name = visitor.person();
        Person person = name == null ? null : access.now().person(name);
        if (person == null) {
            throw new Refusal(ProblemKind.NOT_ALLOWED, "Only a person who is signed in has an account here.");
        }
        return person;
    }

    private static @Nullable String kept(Visitor visitor) {
        Session session = visitor.session();
        return session == null ? null : session.id();
    }

    /** Whoever tries passwords makes no more entries than somebody can read. */
    private void noteRefused(String subject, String address, String detail) {
        int before = refusals.ask(System.nanoTime());
        if (before != LineLimit.NONE) {
            String more = before == 0 ? "" : "; " + before + " others were not noted before";
            try {
                access.records().note(entry(subject, address, "sign-in-refused", subject, detail + more));
            } catch (RuntimeException e) {
                // the sign-in is refused all the same
                LOG.warn("A refused sign-in could not be written down: {}", e.getMessage());
            }
        }
    }

    private AuditEntry entry(Visitor by, String action, String subject, String detail) {
        return entry(by.who(), by.caller().address(), action, subject, detail);
    }

    private AuditEntry entry(String who, String address, String action, String subject, String detail) {
        return new AuditEntry(clock.instant(), who, address, action, subject, detail);
    }

    private static String label(Session.Kind kind) {
        return switch (kind) {
            case CONSOLE -> "console";
            case COMMAND_LINE -> "command line";
        };
    }

    /** What a browser keeps, so that it is known for the person's own at the next sign-in. */
    public String device(String person) {
        return signed("device " + person);
    }

    private boolean isKnown(@Nullable String device, String person) {
        return device != null && isSigned("device " + person, device);
    }

    /** The signature of a text, which nobody else can make. */
    String signed(String text) {
        return HexFormat.of().formatHex(signature(text));
    }

    boolean isSigned(String text, String signature) {
        return MessageDigest.isEqual(
                signature.getBytes(StandardCharsets.UTF_8), signed(text).getBytes(StandardCharsets.UTF_8));
    }

    private byte[] signature(String text) {
        try {
            Mac mac = Mac.getInstance(HMAC);
            mac.init(new SecretKeySpec(deviceKey, HMAC));
            return mac.doFinal(text.getBytes(StandardCharsets.UTF_8));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has " + HMAC, e);
        }
    }
}
