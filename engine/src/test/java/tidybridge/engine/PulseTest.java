package tidybridge.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.reflect.Proxy;
import java.net.SocketTimeoutException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import tidybridge.demo.Until;

/** When a database is taken for one that hangs. */
class PulseTest {

    private static final Duration PATIENT = Duration.ofSeconds(1);

    private final AtomicInteger asked = new AtomicInteger();

    private final AtomicInteger cut = new AtomicInteger();

    /** A database that takes half a second to let anybody in, and as long to answer. */
    private Connection slow(Duration limit) throws SQLException {
        asked.incrementAndGet();
        if (limit.compareTo(PATIENT) < 0) {
            throw new SQLException("too late", new SocketTimeoutException());
        }
        return (Connection) Proxy.newProxyInstance(
                getClass().getClassLoader(), new Class<?>[] {Connection.class}, (proxy, method, arguments) -> {
                    if (method.getName().equals("createStatement")) {
                        throw new SQLException("too late", new SocketTimeoutException());
                    }
                    return null;
                });
    }

    @Test
    void whatGivesNoSignIsTakenForSilent() throws Exception {
        try (Pulse pulse = new Pulse("idle", this::slow, cut::incrementAndGet, () -> false)) {
            pulse.begin();
            Until.holds(() -> cut.get() > 0);
        }
    }

    /** On a machine whose processors are busy it may be this side that hears late. */
    @Test
    void whatIsHeardLateOnABusyMachineIsNot() throws Exception {
        try (Pulse pulse = new Pulse("busy", this::slow, cut::incrementAndGet, () -> true)) {
            pulse.begin();
            Until.holds(() -> asked.get() > 6);
            assertThat(pulse.isSilent()).isFalse();
            assertThat(cut).hasValue(0);
        }
    }
}
