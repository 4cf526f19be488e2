package tidybridge.service.transport;

import java.time.Clock;
import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.ssl.DefaultSslBundleRegistry;
import org.springframework.boot.ssl.SslBundles;

/**
 * Keeps the server's certificate as its files say: when they change, new connections get the new one, and those that are open stay as they
 * are. Files that cannot be used change nothing. Thread-safe.
 */
public final class LiveTls implements AutoCloseable {

    /** What the server calls the certificate. */
    public static final String NAME = "service";

    /** How often the files are looked at. */
    public static final Duration LOOK_EVERY = Duration.ofSeconds(2);

    private static final Logger LOG = LoggerFactory.getLogger(LiveTls.class);

    private final TlsFiles files;
    private final Clock clock;
    private final DefaultSslBundleRegistry registry;
    private final ScheduledExecutorService background = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("certificate").factory());
    private int state;
    private @Nullable String trouble;

    private LiveTls(TlsFiles files, Clock clock) throws TlsFiles.Unfit {
        this.files = files;
        this.clock = clock;
        this.state = files.state();
        this.registry = new DefaultSslBundleRegistry(NAME, files.read(clock.instant()));
    }

    /**
     * Reads the files, and keeps looking at them.
     *
     * @throws TlsFiles.Unfit when they cannot be used
     */
    public static LiveTls load(TlsFiles files, Clock clock) throws TlsFiles.Unfit {
        LiveTls tls = new LiveTls(files, clock);
        long every = LOOK_EVERY.toMillis();
        tls.background.scheduleWithFixedDelay(tls::look, every, every, TimeUnit.MILLISECONDS);
        return tls;
    }

    /** True when callers may show certificates. */
    public boolean asksForCertificates() {
        return files.clientAuthorities() != null;
    }

    /** Where the server finds the certificate. */
    public SslBundles bundles() {
        return registry;
    }

    private void look() {
        try {
            int now = files.state();
            if (now != state) {
                registry.updateBundle(NAME, files.read(clock.instant()));
                state = now;
                trouble = null;
                LOG.info("The certificate in {} is new, and is shown from now on.", files.certificate());
            }
        } catch (TlsFiles.Unfit e) {
            say(String.valueOf(e.getMessage()));
        } catch (RuntimeException e) {
            say("the server does not take it: " + e.getMessage());
        }
    }

    private void say(String now) {
        if (!now.equals(trouble)) {
            trouble = now;
            LOG.error("The new certificate is not used, and the one before is shown still: {}.", now);
        }
    }

    @Override
    public void close() {
        background.shutdownNow();
    }
}
