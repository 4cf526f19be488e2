package tidybridge.bench;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.IntPredicate;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.DemoSize;
import tidybridge.demo.LocalMariaDb;
import tidybridge.demo.Secrets;
import tidybridge.demo.ServiceProcess;

/**
 * {@code ./tidy bench start}: how long a service takes until it answers a call, with many released modules; what it holds in memory then; and
 * how soon it tells that its database is gone, and uses it again. Tests wait for all this and do not time it.
 */
final class Start {

    private static final int MODULES = 100;
    private static final int OPERATIONS = 20;
    private static final int HEAP_MEGABYTES = 256;
    private static final int ROUNDS = 5;
    private static final Duration IDLE = Duration.ofSeconds(20);
    private static final String LINE = "%-52s %12s  %s%n";

    private final Path project;
    private final Path folder;
    private final HttpClient http =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();

    Start(Path project) throws IOException {
        this.project = project;
        this.folder = Files.createDirectories(project.resolve(".tidy").resolve("bench-start"));
    }

    void run() throws Exception {
        Secrets secrets = Secrets.in(folder);
        System.err.println(
                "Starting MariaDB, and publishing " + MODULES + " modules of " + OPERATIONS + " operations ...");
        try (LocalMariaDb database = LocalMariaDb.start(folder.resolve("mariadb"))) {
            DemoDatabase.createRecords(database, secrets.get("records"), secrets.get("records-owner"));
            DemoDatabase.createSource(database, secrets.get("waterways"), DemoSize.SMALL, percent -> {});
            Path workspace = workspace();
            int port = Bench.freePort();
            // what a first run leaves for the next ones is there afterwards
            try (ServiceProcess service = start(workspace, database, port, secrets)) {
                Bench.publish(service, workspace, folder.resolve("home"));
            }
            System.out.printf(LINE, "", "measured", "goal");
            List<Long> took = new ArrayList<>();
            for (int i = 0; i < ROUNDS; i++) {
                long begun = System.nanoTime();
                try (ServiceProcess service = start(workspace, database, port, secrets)) {
                    took.add(until(service, status -> status == 200, begun));
                    if (i == ROUNDS - 1) {
                        TimeUnit.NANOSECONDS.sleep(IDLE.toNanos());
                        print("first answer after the start, median", median(took) + " ms", "3000 ms");
                        print("resident memory when idle", Bench.residentMegabytes(service.pid()) + " MB", "300 MB");
                        measureOutage(service, database);
                    }
                }
            }
        }
    }

    private ServiceProcess start(Path workspace, LocalMariaDb database, int port, Secrets secrets) throws IOException {
        return ServiceProcess.start(
                project, workspace, folder, database.port(), port, HEAP_MEGABYTES, secrets, Map.of());
    }

    private void measureOutage(ServiceProcess service, LocalMariaDb database) throws Exception {
        database.freeze();
        long begun = System.nanoTime();
        print("database hangs: told after", until(service, status -> status == 503, begun) + " ms", "1000 ms");
        database.thaw();
        begun = System.nanoTime();
        print("database goes on: used after", until(service, status -> status == 200, begun) + " ms", "2000 ms");
        database.kill();
        begun = System.nanoTime();
        print("database is killed: told after", until(service, status -> status == 503, begun) + " ms", "1000 ms");
        try (LocalMariaDb again = database.restart()) {
            begun = System.nanoTime();
            print("database is back: used after", until(service, status -> status == 200, begun) + " ms", "2000 ms");
        }
    }

    /** Calls until the status is as expected; the milliseconds since the beginning. */
    private long until(ServiceProcess service, IntPredicate expected, long begun) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(
                        URI.create(service.address() + "/api/many-" + (MODULES - 1) + "/v1/berths-0/17"))
                .build();
        while (!expected.test(
                http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode())) {
            TimeUnit.MILLISECONDS.sleep(5);
        }
        return TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - begun);
    }

    private static long median(List<Long> values) {
        return values.stream().sorted().toList().get(values.size() / 2);
    }

    private static void print(String what, String measured, String goal) {
        System.out.printf(Locale.ROOT, LINE, what, measured, goal);
    }

    private Path workspace() throws IOException {
        Path workspace = Files.createDirectories(folder.resolve("workspace"));
        Files.copy(
                project.resolve("bench/workspace/workspace.yaml"),
                workspace.resolve("workspace.yaml"),
                StandardCopyOption.REPLACE_EXISTING);
        for (int i = 0; i < MODULES; i++) {
            Path module = Files.createDirectories(workspace.resolve("modules/many-" + i + "/v1"));
            StringBuilder yaml = new StringBuilder("""
                    module: many-%d
                    version: 1.0.0
                    title: One of many
                    source: waterways
                    public: true
                    accept: { open-to-everybody: it is measured }
                    routes:
                    """.formatted(i));
            for (int j = 0; j < OPERATIONS; j++) {
                yaml.append("""
                          /berths-%d/{id}:
                            get: { about: A berth, sql: berth.sql, answer: row, parameters: { id: { in: path, type: integer, example: 17 } } }
                        """.formatted(j));
            }
            Files.writeString(module.resolve("module.yaml"), yaml.toString());
            Files.writeString(module.resolve("berth.sql"), "select id, berth_no, length_m from berth where id = :id\n");
        }
        return workspace;
    }
}
