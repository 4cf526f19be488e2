package tidybridge.bench;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Compiles and checks a thousand operations against a live catalog, as publishing a large workspace does. */
final class Checks {

    static final int OPERATIONS = 1_000;

    private static final int OPERATIONS_A_MODULE = 25;
    private static final JsonMapper JSON = JsonMapper.shared();

    private final HttpClient http = HttpClient.newHttpClient();
    private final String address;
    private final String token;

    Checks(String address, Path home) throws IOException {
        this.address = address;
        this.token = Files.readString(home.resolve("administrator.token")).strip();
    }

    /**
     * Checks all of them once.
     *
     * @return the seconds it took
     */
    double seconds() throws IOException, InterruptedException {
        byte[] body = JSON.writeValueAsBytes(Map.of("modules", modules()));
        HttpRequest request = HttpRequest.newBuilder(URI.create(address + "/desk/checks"))
                .header("Authorization", "Bearer " + token)
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofByteArray(body))
                .build();
        long start = System.nanoTime();
        HttpResponse<byte[]> response = http.send(request, HttpResponse.BodyHandlers.ofByteArray());
        double seconds = (System.nanoTime() - start) / 1e9;
        JsonNode answer = JSON.readTree(response.body());
        List<String> errors = new ArrayList<>();
        answer.path("findings").forEach(finding -> {
            if (finding.path("severity").asString().equals("error")) {
                errors.add(finding.toString());
            }
        });
        if (response.statusCode() != 200 || !errors.isEmpty()) {
            throw new IllegalStateException(
                    "the bench's operations do not compile: " + response.statusCode() + " " + errors);
        }
        return seconds;
    }

    /** The least that a check of these operations can take: each statement prepared once, over one connection. */
    static double preparingSeconds(String jdbc, String user, String password) throws SQLException {
        Properties properties = new Properties();
        properties.setProperty("user", user);
        properties.setProperty("password", password);
        properties.setProperty("prepStmtCacheSize", "0");
        properties.setProperty("cachePrepStmts", "false");
        try (Connection connection = DriverManager.getConnection(jdbc, properties)) {
            long start = System.nanoTime();
            for (int i = 0; i < OPERATIONS; i++) {
                String sql = statement(i).replaceAll("--.*", "").replaceAll(":\\w+", "?");
                try (PreparedStatement statement = connection.prepareStatement(sql)) {
                    statement.getMetaData();
                }
            }
            return (System.nanoTime() - start) / 1e9;
        }
    }

    private static List<Map<String, Object>> modules() {
        List<Map<String, Object>> modules = new ArrayList<>();
        for (int first = 0; first < OPERATIONS; first += OPERATIONS_A_MODULE) {
            String name = "bench" + first;
            StringBuilder yaml = new StringBuilder("module: " + name + """

                    version: 1.0.0
                    title: Bench
                    source: waterways
                    public: false
                    routes:
                    """);
            Map<String, String> files = new HashMap<>();
            for (int i = first; i < first + OPERATIONS_A_MODULE; i++) {
                yaml.append(operation(i));
                files.put("s" + i + ".sql", statement(i));
            }
            files.put("module.yaml", yaml.toString());
            modules.add(Map.of("folder", "modules/" + name + "/v1", "files", files));
        }
        return modules;
    }

    private static String operation(int i) {
        return switch (i % 4) {
            case 0 -> """
                      /berths%1$d:
                        get:
                          about: Berths
                          sql: s%1$d.sql
                          answer: rows
                          order: [basin, berth_no]
                          parameters:
                            basin: { in: query, type: string, maxLength: 60, example: Heron Pool }
                            least: { in: query, type: number, example: 12 }
                    """.formatted(i);
            case 1 -> """
                      /passages%1$d:
                        get:
                          about: Passages
                          sql: s%1$d.sql
                          answer: rows
                          order: [passed_at desc, id desc]
                          parameters:
                            lock: { in: query, type: integer, example: 3 }
                    """.formatted(i);
            case 2 -> """
                      /vessels%1$d/{id}:
                        get:
                          about: A vessel
                          sql: s%1$d.sql
                          answer: row
                          parameters:
                            id: { in: path, type: integer, example: 3 }
                    """.formatted(i);
            default -> """
                      /count%1$d:
                        get:
                          about: Bookings
                          sql: s%1$d.sql
                          answer: value
                          parameters:
                            berths: { in: query, type: array, items: { type: integer }, required: true, example: [3] }
                            day: { in: query, type: date, required: true, example: 2031-05-01 }
                    """.formatted(i);
        };
    }

    private static String statement(int i) {
        return switch (i % 4) {
            case 0 -> """
                    select b.id, n.name as basin, b.berth_no, b.length_m + %d as length_m
                    from berth b join basin n on n.id = b.basin_id
                    where n.name = :basin        -- when :basin
                      and b.length_m >= :least   -- when :least
                    """.formatted(i);
            case 1 -> """
                    select p.id, p.passed_at, l.name as lock_name, p.wait_minutes + %d as waited
                    from lock_passage p straight_join canal_lock l on l.id = p.lock_id
                    where p.lock_id = :lock      -- when :lock
                    """.formatted(i);
            case 2 -> """
                    select v.id, v.name, v.registration, s.name as skipper, %d as n
                    from vessel v join skipper s on s.id = v.skipper_id
                    where v.id = :id
                    """.formatted(i);
            default -> """
                    select count(*) + %d as n from booking where berth_id in (:berths) and arrives <= :day and departs > :day
                    """.formatted(i);
        };
    }
}
