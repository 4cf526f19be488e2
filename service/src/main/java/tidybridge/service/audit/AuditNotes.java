package tidybridge.service.audit;

import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.engine.SourceSettings;
import tidybridge.records.AuditEntry;
import tidybridge.records.AuditTrail;
import tools.jackson.databind.json.JsonMapper;

/**
 * Notices what is changed outside of the service, in files and in the environment: its settings, and the sources. What is written of them is
 * compared with what the audit trail said last. Thread-safe.
 */
public final class AuditNotes implements AutoCloseable {

    /** Of what nobody was seen to do. */
    public static final String NOBODY = "the service";

    private static final Logger LOG = LoggerFactory.getLogger(AuditNotes.class);
    private static final JsonMapper JSON = JsonMapper.shared();

    private final AuditTrail trail;
    private final Clock clock;
    private final ScheduledExecutorService background = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("audit").factory());
    private long said = -1;

    public AuditNotes(AuditTrail trail, Clock clock) {
        this.trail = trail;
        this.clock = clock;
        background.scheduleWithFixedDelay(this::sayHead, 0, 1, TimeUnit.HOURS);
    }

    /** Says once if the service's own user could rewrite the trail. */
    public void warn() {
        if (trail.canBeRewritten()) {
            LOG.warn(
                    "The service's own user of the record store may change the audit trail, so that only its chain tells of it; docs/operating.md, 'The audit trail', tells how to set tidy.records.owner.");
        }
    }

    /** The log is kept elsewhere, so what stands there cannot be changed together with the trail. */
    private void sayHead() {
        try {
            AuditTrail.Head head = trail.head();
            if (head.entry() != said) {
                said = head.entry();
                LOG.info("The last entry of the audit trail is {}:{}", head.entry(), head.hash());
            }
        } catch (RuntimeException e) {
            LOG.debug("the record store is away", e);
        }
    }

    /** Notes the settings of a service, if they are others than the last time. */
    public void settings(String host, Map<String, ?> settings) {
        note("set-settings", Map.of(host, JSON.writeValueAsString(settings)), false, NOBODY, null);
    }

    /**
     * Notes the sources, as far as they are others than the last time.
     *
     * @param who read them
     * @param address where that came from; null for the service itself
     */
    public void sources(List<SourceSettings> sources, String who, @Nullable String address) {
        Map<String, String> states = new LinkedHashMap<>();
        sources.forEach(source -> states.put(source.name(), state(source)));
        note("set-source", states, true, who, address);
    }

    private void note(String action, Map<String, String> states, boolean all, String who, @Nullable String address) {
        Map<String, String> before = trail.states(action);
        states.forEach((subject, state) -> {
            String was = before.get(subject);
            if (!state.equals(was)) {
                trail.add(new AuditEntry(clock.instant(), who, address, action, subject, "").changing(was, state));
            }
        });
        if (all) {
            before.forEach((subject, state) -> {
                if (!states.containsKey(subject)) {
                    trail.add(new AuditEntry(clock.instant(), who, address, action, subject, "removed")
                            .changing(state, null));
                }
            });
        }
    }

    private static String state(SourceSettings source) {
        Map<String, @Nullable Object> parts = new LinkedHashMap<>();
        parts.put("kind", source.kind().toString());
        parts.put("host", source.host());
        parts.put("port", source.port());
        parts.put("schema", source.schema());
        parts.put("user", source.user());
        parts.put("transport", source.transport().toString());
        parts.put(
                "certificate",
                source.certificate() == null ? null : source.certificate().toString());
        parts.put("readOnly", source.readOnly());
        parts.put("connections", source.connections());
        parts.put("patience", source.patience().toString());
        parts.put("timeout", source.timeout().toString());
        return JSON.writeValueAsString(parts);
    }

    @Override
    public void close() {
        background.shutdownNow();
    }
}
