package tidybridge.service.access;

import com.nimbusds.jose.jwk.ECKey;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Consumer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.records.AccessRecords;
import tidybridge.records.AuditEntry;
import tidybridge.records.SigningKey;

/**
 * Holds who may what. Calls read one immutable {@link AccessBook}. A change through this service is felt at once; one through another
 * service over the same records within {@link #LOOK_EVERY}, because each looks for the number of the last change. Thread-safe.
 */
public final class LiveAccess implements AutoCloseable {

    /** How often a service looks whether another one changed something. */
    public static final Duration LOOK_EVERY = Duration.ofMillis(300);

    /** How late the records know that a credential was used. */
    static final long NOTE_EVERY_MILLIS = 5_000;

    /** How often at most a stranger's credential makes the service look for changes. */
    private static final long LOOK_AT_MOST_NANOS = Duration.ofMillis(20).toNanos();

    private static final Logger LOG = LoggerFactory.getLogger(LiveAccess.class);

    private final AccessRecords records;
    private final Clock clock;
    private final ScheduledExecutorService background = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("live-access").factory());
    private final ScheduledExecutorService ending = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("access-ends").factory());
    private final ReentrantLock looking = new ReentrantLock();
    private final Map<String, Instant> credentialsUsed = new ConcurrentHashMap<>();
    private final Map<String, Instant> sessionsUsed = new ConcurrentHashMap<>();
    private long looked = System.nanoTime() - LOOK_AT_MOST_NANOS;
    private boolean silent;
    private volatile AccessBook book;

    private LiveAccess(AccessRecords records, Clock clock) {
        this.records = records;
        this.clock = clock;
        this.book = read();
    }

    private AccessBook read() {
        Instant now = clock.instant();
        return new AccessBook(records.read(now), now);
    }

    /** Loads what the records say, and keeps looking. */
    public static LiveAccess load(AccessRecords records, Clock clock) {
        LiveAccess access = new LiveAccess(records, clock);
        access.makeKey();
        long look = LOOK_EVERY.toMillis();
        access.background.scheduleWithFixedDelay(access::lookQuietly, look, look, TimeUnit.MILLISECONDS);
        access.ending.scheduleWithFixedDelay(access::endWhatHasEnded, look, look, TimeUnit.MILLISECONDS);
        access.background.scheduleWithFixedDelay(
                access::noteUses, NOTE_EVERY_MILLIS, NOTE_EVERY_MILLIS, TimeUnit.MILLISECONDS);
        access.background.scheduleWithFixedDelay(access::makeKeyQuietly, 1, 1, TimeUnit.HOURS);
        return access;
    }

    /** What is so now. Ask once a call. */
    public AccessBook now() {
        return book;
    }

    /** Finds a secret by its id, looking for changes before one is called unknown: it may have been given out by another service just now. */
    AccessBook.@Nullable Known find(String id) {
        AccessBook.Known known = book.find(id);
        if (known == null) {
            lookForStranger();
            known = book.find(id);
        }
        return known;
    }

    /**
     * Looks for changes, with all strangers who come meanwhile. Whoever comes just after a look waits for the next one: what they show may
     * have been given out since.
     */
    private void lookForStranger() {
        long came = System.nanoTime();
        looking.lock();
        try {
            if (looked - came < 0) {
                LockSupport.parkNanos(LOOK_AT_MOST_NANOS - (System.nanoTime() - looked));
                looked = System.nanoTime();
                lookQuietly();
            }
        } finally {
            looking.unlock();
        }
    }

    /** Takes over what other nodes changed; while the record store is away, everything stays as it was. */
    public void catchUp() {
        lookQuietly();
    }

    /** A key that tokens are signed with, by its id, looking for a new one before it is called unknown. */
    @Nullable
    ECKey key(String id) {
        ECKey key = book.keys().find(id);
        if (key == null) {
            lookForStranger();
            key = book.keys().find(id);
        }
        return key;
    }

    /** Makes the next key for signing when it is time. */
    private void makeKey() {
        Instant now = clock.instant();
        if (book.keys().isOld(now)) {
            SigningKey key = SigningKeys.make(now);
            AuditEntry entry = new AuditEntry(now, "the service", null, "make-signing-key", key.id(), "");
            change(access ->
                    access.addSigningKey(key, now.minus(SigningKeys.LIFE), now.minus(SigningKeys.KEPT), entry));
        }
    }

    private void makeKeyQuietly() {
        try {
            makeKey();
        } catch (RuntimeException e) {
            LOG.warn("The next key for signing could not be made, and is tried again in an hour: {}", e.getMessage());
        }
    }

    /** Changes something, and makes it felt here at once. */
    public void change(Consumer<AccessRecords> work) {
        changed(access -> {
            work.accept(access);
            return true;
        });
    }

    /** The same with what the change tells. */
    public <T> T changed(Function<AccessRecords, T> work) {
        T told = work.apply(records);
        install();
        return told;
    }

    /** The records, for what is no change. */
    public AccessRecords records() {
        return records;
    }

    private void install() {
        install(read());
    }

    /** What is read meanwhile holds up nobody who ends something. */
    private synchronized void install(AccessBook read) {
        if (read.number() >= book.number()) {
            Instant now = clock.instant();
            book = read.isPast(now) ? read.at(now) : read;
        }
    }

    /** What was given until now ends. It has a thread of its own, because a record store that hangs holds up whoever asks it. */
    private synchronized void endWhatHasEnded() {
        Instant now = clock.instant();
        if (book.isPast(now)) {
            book = book.at(now);
        }
    }

    private void lookQuietly() {
        try {
            if (records.number() != book.number()) {
                install();
            }
            silent = false;
        } catch (RuntimeException e) {
            if (!silent) {
                silent = true;
                LOG.warn("The record store does not answer; who may what stays as it was: {}", e.getMessage());
            }
        }
    }

    /** Remembers that a secret was used. */
    void used(String id, boolean session) {
        (session ? sessionsUsed : credentialsUsed).put(id, clock.instant());
    }

    private void noteUses() {
        Map<String, Instant> credentials = taken(credentialsUsed);
        Map<String, Instant> sessions = taken(sessionsUsed);
        try {
            if (!credentials.isEmpty() || !sessions.isEmpty()) {
                records.used(credentials, sessions);
            }
        } catch (RuntimeException e) {
            credentials.forEach(credentialsUsed::putIfAbsent);
            sessions.forEach(sessionsUsed::putIfAbsent);
        }
    }

    private static Map<String, Instant> taken(Map<String, Instant> used) {
        Map<String, Instant> taken = new HashMap<>(used);
        taken.forEach(used::remove);
        return taken;
    }

    @Override
    public void close() {
        ending.shutdown();
        background.shutdown();
        noteUses();
    }
}
