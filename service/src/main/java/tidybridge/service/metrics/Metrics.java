package tidybridge.service.metrics;

import io.micrometer.core.instrument.MultiGauge;
import io.micrometer.core.instrument.MultiGauge.Row;
import io.micrometer.core.instrument.Tags;
import io.micrometer.core.instrument.binder.jvm.JvmMemoryMetrics;
import io.micrometer.core.instrument.binder.jvm.JvmThreadMetrics;
import io.micrometer.core.instrument.binder.system.ProcessorMetrics;
import io.micrometer.core.instrument.binder.system.UptimeMetrics;
import io.micrometer.prometheusmetrics.PrometheusConfig;
import io.micrometer.prometheusmetrics.PrometheusMeterRegistry;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.node.Nodes;
import tidybridge.service.release.Drift;
import tidybridge.service.release.DriftWatch;

/** Counts this node for collectors of metrics, in the OpenMetrics text form. Thread-safe. What is counted is looked up when somebody reads. */
public final class Metrics implements AutoCloseable {

    /** The media type of what {@link #text} returns. */
    public static final String MEDIA_TYPE = "application/openmetrics-text;version=1.0.0;charset=utf-8";

    private final LiveModules modules;
    private final DriftWatch drift;
    private final Nodes nodes;
    private final PrometheusMeterRegistry registry = new PrometheusMeterRegistry(PrometheusConfig.DEFAULT);
    private final MultiGauge states;
    private final MultiGauge notes;
    private final MultiGauge looked;
    private final MultiGauge standing;

    public Metrics(LiveModules modules, DriftWatch drift, Nodes nodes) {
        this.modules = modules;
        this.drift = drift;
        this.nodes = nodes;
        new JvmMemoryMetrics().bindTo(registry);
        new JvmThreadMetrics().bindTo(registry);
        new ProcessorMetrics().bindTo(registry);
        new UptimeMetrics().bindTo(registry);
        states = MultiGauge.builder("tidy.modules")
                .description("Live modules by how this node serves them")
                .register(registry);
        notes = MultiGauge.builder("tidy.drift.notes")
                .description("What of a live module no longer fits its database")
                .register(registry);
        standing = MultiGauge.builder("tidy.nodes")
                .description("Services over the same records by how they stand")
                .register(registry);
        looked = MultiGauge.builder("tidy.drift.looked")
                .description("When a live module was last held against its database")
                .baseUnit("timestamp.seconds")
                .register(registry);
    }

    /** What can be counted now. */
    public synchronized String text() {
        List<LiveModule> live = modules.now().modules();
        states.register(
                Stream.of(LiveModule.State.values())
                        .map(state -> Row.of(
                                Tags.of("state", state.label()),
                                live.stream()
                                        .filter(module -> module.state() == state)
                                        .count()))
                        .toList(),
                true);
        List<Nodes.Standing> known = nodes.all();
        standing.register(
                Stream.of(Nodes.State.values())
                        .map(state -> Row.of(
                                Tags.of("state", state.label()),
                                known.stream()
                                        .filter(node -> node.state() == state)
                                        .count()))
                        .toList(),
                true);
        List<Row<?>> noted = new ArrayList<>();
        List<Row<?>> when = new ArrayList<>();
        for (Drift found : drift.found()) {
            Tags module = Tags.of("module", found.identity());
            long breaking = found.notes().stream().filter(Drift.Note::breaking).count();
            noted.add(Row.of(module.and("effect", "breaking"), breaking));
            noted.add(Row.of(module.and("effect", "weaker"), found.notes().size() - breaking));
            when.add(Row.of(module, found.checkedAt().getEpochSecond()));
        }
        notes.register(noted, true);
        looked.register(when, true);
        return registry.scrape(MEDIA_TYPE);
    }

    @Override
    public void close() {
        registry.close();
    }
}
