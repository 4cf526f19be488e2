package tidybridge.service.node;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.records.NodeEntry;
import tidybridge.records.Records;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;

/** Tells the others of this node every two seconds, and reads what they tell. Thread-safe. */
public final class Nodes implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Nodes.class);

    /** How often a node tells of itself. */
    private static final Duration EVERY = Duration.ofSeconds(2);

    /** One that was silent for longer has ended, hangs, or does not reach the records. */
    private static final Duration SILENT = Duration.ofSeconds(7);

    /** How long a node's name may be, in characters. */
    public static final int LONGEST_NAME = 255;

    private static final int ID_BYTES = 16;

    private final Records records;
    private final LiveModules modules;
    private final Departure departure;
    private final String id;
    private final String name;
    private final String version = Build.version();
    private final Instant startedAt;
    private final ScheduledExecutorService telling = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("node").factory());
    private boolean answers = true;
    private volatile Looked looked = new Looked(List.of(), System.nanoTime());

    /**
     * Begins to tell of this node.
     *
     * @param name where it runs, for people
     */
    public Nodes(
            Records records, LiveModules modules, Departure departure, String name, SecureRandom random, Clock clock) {
        this.records = records;
        this.modules = modules;
        this.departure = departure;
        this.name = name;
        byte[] bytes = new byte[ID_BYTES];
        random.nextBytes(bytes);
        this.id = HexFormat.of().formatHex(bytes);
        this.startedAt = clock.instant();
        telling.scheduleWithFixedDelay(this::tellQuietly, 0, EVERY.toMillis(), TimeUnit.MILLISECONDS);
    }

    /** How a node stands. */
    public enum State {
        /** It tells of itself, and serves. */
        SERVING,
        /** It was told to end, and ends what is under way. */
        LEAVING,
        /** It ended without saying so, hangs, or does not reach the records. */
        SILENT;

        /** The word for it in outputs. */
        public String label() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * A node.
     *
     * @param here whether it is the one that is asked
     */
    public record Standing(NodeEntry entry, State state, boolean here) {}

    /**
     * All nodes, as they told of themselves when this one looked last. While the records do not answer, all become silent. One that is silent
     * is left out once another has begun under its name.
     */
    public List<Standing> all() {
        List<NodeEntry> all = aged();
        return all.stream()
                .filter(node -> state(node) != State.SILENT || all.stream().noneMatch(other -> replaces(other, node)))
                .map(this::standing)
                .toList();
    }

    private List<NodeEntry> aged() {
        Looked last = looked;
        Duration since = Duration.ofNanos(System.nanoTime() - last.atNanos());
        return last.nodes().stream().map(node -> node.silentLonger(since)).toList();
    }

    /** What was found at one moment. */
    private record Looked(List<NodeEntry> nodes, long atNanos) {}

    private static boolean replaces(NodeEntry node, NodeEntry other) {
        return node.name().equals(other.name()) && node.startedAt().isAfter(other.startedAt());
    }

    /** What other nodes that serve say of a module that they cannot serve as they should, as it was known a moment ago. */
    public List<Elsewhere> elsewhere(String module) {
        return aged().stream()
                .filter(node -> !node.id().equals(id) && state(node) == State.SERVING)
                .flatMap(node -> node.troubles().stream()
                        .filter(trouble -> trouble.module().equals(module))
                        .map(trouble -> new Elsewhere(node.name(), trouble.words())))
                .toList();
    }

    /**
     * What another node says.
     *
     * @param node its name
     */
    public record Elsewhere(String node, String words) {}

    private Standing standing(NodeEntry node) {
        return new Standing(node, state(node), node.id().equals(id));
    }

    private static State state(NodeEntry node) {
        if (node.silentFor().compareTo(SILENT) > 0) {
            return State.SILENT;
        }
        return node.leaving() ? State.LEAVING : State.SERVING;
    }

    private void tellQuietly() {
        try {
            records.nodes().tell(entry());
            looked = new Looked(records.nodes().all(), System.nanoTime());
            answers = true;
        } catch (RuntimeException e) {
            if (answers) {
                LOG.warn("The other nodes cannot be told of this one: {}", e.getMessage());
            }
            answers = false;
        }
    }

    private NodeEntry entry() {
        List<NodeEntry.Trouble> troubles = modules.now().modules().stream()
                .filter(module -> module.trouble() != null && module.state() != LiveModule.State.PENDING)
                .limit(NodeEntry.MOST_TROUBLES)
                .map(module -> new NodeEntry.Trouble(module.identity(), String.valueOf(module.trouble())))
                .toList();
        return new NodeEntry(
                id,
                name,
                version,
                startedAt,
                Duration.ZERO,
                Math.max(0, modules.settled()),
                departure.hasBegun(),
                troubles);
    }

    @Override
    public void close() {
        telling.shutdownNow();
        try {
            records.nodes().forget(id);
        } catch (RuntimeException e) {
            LOG.warn("The other nodes cannot be told that this one ended: {}", e.getMessage());
        }
    }
}
