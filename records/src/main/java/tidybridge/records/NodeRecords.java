package tidybridge.records;

import static tidybridge.records.generated.Tables.NODE;

import java.time.Duration;
import java.time.LocalDateTime;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The services that run over these records. Thread-safe. How long one was silent is told by the store's clock, so that theirs may differ. */
public final class NodeRecords {

    /** After so long one that ended without saying so is forgotten. */
    public static final Duration FORGOTTEN_AFTER = Duration.ofHours(1);

    private static final Field<LocalDateTime> NOW = DSL.field("utc_timestamp(3)", LocalDateTime.class);

    private final DSLContext db;

    NodeRecords(DSLContext db) {
        this.db = db;
    }

    /** Tells of one; its {@code silentFor} does not matter. */
    public void tell(NodeEntry node) {
        String troubles = JsonMapper.shared().writeValueAsString(node.troubles());
        db.insertInto(NODE)
                .set(NODE.ID, node.id())
                .set(NODE.NAME, node.name())
                .set(NODE.VERSION, node.version())
                .set(NODE.STARTED_AT, Moments.stored(node.startedAt()))
                .set(NODE.SEEN_AT, NOW)
                .set(NODE.LIVE_CHANGE, node.liveChange())
                .set(NODE.LEAVING, node.leaving())
                .set(NODE.TROUBLES, troubles)
                .onDuplicateKeyUpdate()
                .set(NODE.SEEN_AT, NOW)
                .set(NODE.LIVE_CHANGE, node.liveChange())
                .set(NODE.LEAVING, node.leaving())
                .set(NODE.TROUBLES, troubles)
                .execute();
    }

    /** All that told of themselves lately, in the order of their names; the others are forgotten. */
    public List<NodeEntry> all() {
        Field<Long> silent = DSL.field("timestampdiff(microsecond, {0}, {1}) div 1000", Long.class, NODE.SEEN_AT, NOW);
        db.deleteFrom(NODE).where(silent.gt(FORGOTTEN_AFTER.toMillis())).execute();
        return db.select(
                        NODE.ID,
                        NODE.NAME,
                        NODE.VERSION,
                        NODE.STARTED_AT,
                        silent,
                        NODE.LIVE_CHANGE,
                        NODE.LEAVING,
                        NODE.TROUBLES)
                .from(NODE)
                .orderBy(NODE.NAME, NODE.STARTED_AT)
                .fetch(row -> new NodeEntry(
                        row.value1(),
                        row.value2(),
                        row.value3(),
                        Moments.read(row.value4()),
                        Duration.ofMillis(Math.max(0, row.value5())),
                        row.value6(),
                        row.value7(),
                        JsonMapper.shared().readValue(row.value8(), new TypeReference<>() {})));
    }

    /** Forgets one that ends. */
    public void forget(String id) {
        db.deleteFrom(NODE).where(NODE.ID.eq(id)).execute();
    }
}
