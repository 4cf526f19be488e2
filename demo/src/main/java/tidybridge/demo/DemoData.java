package tidybridge.demo;

import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.Locale;
import java.util.Random;
import java.util.function.IntConsumer;
import org.jspecify.annotations.Nullable;

/**
 * Makes up the data of Marrowby Waterways. The same size gives the same rows every time, because every number comes from one seed
 * through {@link Random}, whose sequence its specification fixes.
 */
public final class DemoData {

    private static final long SEED = 8480;
    private static final int BATCH = 5_000;
    private static final LocalDate FIRST_DAY = LocalDate.of(2030, 1, 1);
    private static final int DAYS = 730;
    private static final String[][] BASINS = {
        {"Alder Basin", "Marrowby"},
        {"Cooper's Reach", "Marrowby"},
        {"Heron Pool", "Little Quell"},
        {"Kiln Wharf", "Osterby"},
        {"Tanner's Dock", "Quellmouth"}
    };
    private static final String[] LOCKS = {
        "Abbot's Lock", "Bramble Lock", "Cinder Lock", "Dovecote Lock", "Elmstead Lock", "Fiddler's Lock",
        "Gatehouse Lock", "Hollow Lock", "Inkwell Lock", "Juniper Lock", "Kestrel Lock", "Lantern Lock"
    };
    private static final String[] FIRST = {
        "Amber", "Brindle", "Copper", "Dapple", "Ember", "Fallow", "Gentle", "Hazel", "Idle", "Jolly", "Keen", "Little",
        "Merry", "Nimble", "Old", "Patient", "Quiet", "Russet", "Silver", "Tawny", "Umber", "Velvet", "Willow", "Yarrow"
    };
    private static final String[] SECOND = {
        "Anvil", "Bittern", "Curlew", "Dabchick", "Egret", "Finch", "Grebe", "Heron", "Iris", "Kingcup", "Lapwing",
        "Mallard", "Nuthatch", "Otter", "Plover", "Quill", "Rushlight", "Sedge", "Teal", "Vole", "Wagtail", "Wren"
    };
    private static final String[] GIVEN = {
        "Ansa", "Borrin", "Callow", "Dellan", "Esk", "Farla", "Gorse", "Hesper", "Ister", "Jorun", "Kell", "Lorne"
    };
    private static final String[] FAMILY = {
        "Underlock", "Vellbridge", "Tarnby", "Sluys-Moor", "Reedham-Oss", "Quaymarsh", "Pennywharf", "Osterling"
    };
    private static final String[] NOTES = {
        "Late arrival, after dusk", "Needs a short finger", "Two bicycles on deck", "Dog on board"
    };

    private final Connection connection;
    private final DemoSize size;
    private final Random random = new Random(SEED);

    private DemoData(Connection connection, DemoSize size) {
        this.connection = connection;
        this.size = size;
    }

    /**
     * Creates the schema's tables, views and routines and fills them.
     *
     * @param connection to an empty schema, with the right to create
     * @param progress told the share that is done, in percent
     */
    public static void load(Connection connection, DemoSize size, IntConsumer progress)
            throws SQLException, IOException {
        DemoData data = new DemoData(connection, size);
        data.createSchema();
        connection.setAutoCommit(false);
        data.basins();
        data.berths();
        data.skippers();
        data.vessels();
        data.locks();
        data.bookings();
        progress.accept(5);
        data.passages(progress);
        data.closures();
        connection.commit();
        connection.setAutoCommit(true);
        try (Statement statement = connection.createStatement()) {
            statement.execute("analyze table basin, berth, vessel, booking, canal_lock, lock_passage");
        }
        progress.accept(100);
    }

    private void createSchema() throws SQLException, IOException {
        String script;
        try (InputStream in = DemoData.class.getResourceAsStream("schema.sql")) {
            if (in == null) {
                throw new IOException("schema.sql is not beside " + DemoData.class);
            }
            script = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
        try (Statement statement = connection.createStatement()) {
            for (String part : script.split("(?m)^//$")) {
                if (!part.isBlank()) {
                    statement.execute(part);
                }
            }
        }
    }

    private void basins() throws SQLException {
        try (PreparedStatement insert = insert("basin (id, name, town, depth_m, opened_on)", 5)) {
            for (int i = 0; i < BASINS.length; i++) {
                add(
                        insert,
                        i + 1,
                        BASINS[i][0],
                        BASINS[i][1],
                        cents(180, 420),
                        LocalDate.of(1790 + 11 * i, 3 + i, 2 + 3 * i));
            }
            insert.executeBatch();
        }
    }

    private void berths() throws SQLException {
        try (PreparedStatement insert = insert(
                "berth (basin_id, berth_no, length_m, width_m, has_power, has_water, nightly_rate, equipment)", 8)) {
            int inBasin = size.berths() / BASINS.length;
            for (int i = 0; i < size.berths(); i++) {
                int basin = Math.min(i / inBasin, BASINS.length - 1);
                int number = i - basin * inBasin;
                String name = String.valueOf((char) ('A' + number / 20)) + String.format("%02d", number % 20 + 1);
                BigDecimal length = cents(700, 2600);
                boolean power = random.nextInt(10) < 7;
                add(
                        insert,
                        basin + 1,
                        name,
                        length,
                        cents(240, 560),
                        power,
                        random.nextInt(10) < 8,
                        rate(length, power),
                        equipment());
            }
            insert.executeBatch();
        }
    }

    private static BigDecimal rate(BigDecimal length, boolean power) {
        BigDecimal rate = length.multiply(new BigDecimal("1.15")).add(new BigDecimal(power ? "4.50" : "1.50"));
        return rate.setScale(1, RoundingMode.HALF_UP).setScale(2);
    }

    private @Nullable String equipment() {
        return switch (random.nextInt(4)) {
            case 0 -> null;
            case 1 -> "{\"bollards\": " + (2 + random.nextInt(3)) + "}";
            case 2 -> "{\"bollards\": 4, \"ladder\": true}";
            default -> "{\"bollards\": 2, \"power\": {\"ampere\": 16, \"sockets\": " + (1 + random.nextInt(2)) + "}}";
        };
    }

    private void skippers() throws SQLException {
        try (PreparedStatement insert = insert("skipper (name, email)", 2)) {
            for (int i = 0; i < size.vessels(); i++) {
                String name = pick(GIVEN) + " " + pick(FAMILY);
                String mail = name.toLowerCase(Locale.ROOT).replace(' ', '.') + "." + (i + 1) + "@marrowby.example";
                add(insert, name, mail);
            }
            insert.executeBatch();
        }
    }

    private void vessels() throws SQLException {
        try (PreparedStatement insert =
                insert("vessel (name, registration, length_m, beam_m, draught_m, built, skipper_id)", 7)) {
            for (int i = 0; i < size.vessels(); i++) {
                String registration = "MW-" + String.format("%05d", 10_000 + i * 7);
                Integer built = random.nextInt(12) == 0 ? null : 1905 + random.nextInt(120);
                add(
                        insert,
                        pick(FIRST) + " " + pick(SECOND),
                        registration,
                        cents(560, 2400),
                        cents(190, 480),
                        cents(45, 140),
                        built,
                        i + 1);
            }
            insert.executeBatch();
        }
    }

    private void locks() throws SQLException {
        try (PreparedStatement insert = insert("canal_lock (id, name, canal, rise_m)", 4)) {
            for (int i = 0; i < LOCKS.length; i++) {
                add(insert, i + 1, LOCKS[i], i < 7 ? "Marrowby Main Line" : "Quell Branch", cents(110, 380));
            }
            insert.executeBatch();
        }
    }

    /** Each berth's stays follow each other, so that no two of them share a night. */
    private void bookings() throws SQLException {
        try (PreparedStatement insert =
                insert("booking (berth_id, vessel_id, arrives, departs, status, booked_at, changed_at, note)", 8)) {
            int made = 0;
            for (int berth = 1; berth <= size.berths(); berth++) {
                int stays = (int) ((long) size.bookings() * berth / size.berths()) - made;
                double free = Math.max(1.0, DAYS / (double) Math.max(1, stays));
                double day = random.nextDouble() * free;
                for (int i = 0; i < stays; i++) {
                    int nights = 1 + random.nextInt(Math.max(1, (int) free - 2));
                    booking(insert, berth, FIRST_DAY.plusDays((int) day), nights);
                    day += Math.max(free * 0.97, nights);
                }
                made += stays;
            }
            insert.executeBatch();
        }
    }

    private void booking(PreparedStatement insert, int berth, LocalDate arrives, int nights) throws SQLException {
        int chance = random.nextInt(100);
        String status = chance < 70 ? "confirmed" : chance < 82 ? "requested" : chance < 93 ? "cancelled" : "expired";
        LocalDateTime booked =
                arrives.minusDays(1 + random.nextInt(90)).atTime(7 + random.nextInt(13), random.nextInt(60));
        String note = random.nextInt(9) == 0 ? pick(NOTES) : null;
        int vessel = 1 + random.nextInt(size.vessels());
        add(insert, berth, vessel, arrives, arrives.plusDays(nights), status, booked, booked, note);
    }

    private void passages(IntConsumer progress) throws SQLException {
        try (PreparedStatement insert =
                insert("lock_passage (lock_id, vessel_id, passed_at, direction, wait_minutes, level_m)", 6)) {
            long seconds = DAYS * 86_400L;
            LocalDateTime first = FIRST_DAY.atStartOfDay();
            for (int i = 0; i < size.passages(); i++) {
                LocalDateTime at = first.plusSeconds(seconds * i / size.passages() + random.nextInt(90));
                BigDecimal level = random.nextInt(30) == 0 ? null : cents(310, 420);
                add(
                        insert,
                        1 + random.nextInt(LOCKS.length),
                        1 + random.nextInt(size.vessels()),
                        at.truncatedTo(ChronoUnit.SECONDS),
                        random.nextBoolean() ? "up" : "down",
                        random.nextInt(55),
                        level);
                if ((i + 1) % BATCH == 0) {
                    insert.executeBatch();
                    progress.accept(5 + (int) (90L * i / size.passages()));
                }
            }
            insert.executeBatch();
        }
    }

    private void closures() throws SQLException {
        try (PreparedStatement insert = insert("closure (lock_id, closed_from, closed_to, reason)", 4)) {
            String[] reasons = {"Gate repair", "Silt clearing", "Winter inspection", "Paddle gear replaced"};
            for (int i = 0; i < 30; i++) {
                LocalDate from = FIRST_DAY.plusDays(random.nextInt(DAYS - 20));
                add(
                        insert,
                        1 + random.nextInt(LOCKS.length),
                        from,
                        from.plusDays(1 + random.nextInt(14)),
                        pick(reasons));
            }
            insert.executeBatch();
        }
    }

    private PreparedStatement insert(String target, int values) throws SQLException {
        return connection.prepareStatement("insert into " + target + " values (?" + ", ?".repeat(values - 1) + ")");
    }

    private static void add(PreparedStatement insert, @Nullable Object... values) throws SQLException {
        for (int i = 0; i < values.length; i++) {
            insert.setObject(i + 1, values[i]);
        }
        insert.addBatch();
    }

    private String pick(String[] words) {
        return words[random.nextInt(words.length)];
    }

    /** A number with two decimals between the two bounds, which are in hundredths. */
    private BigDecimal cents(int least, int most) {
        return BigDecimal.valueOf(least + random.nextInt(most - least), 2);
    }
}
