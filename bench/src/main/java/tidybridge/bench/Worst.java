package tidybridge.bench;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import tidybridge.core.bind.WorstBodies;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.DemoSize;
import tidybridge.demo.LocalMariaDb;
import tidybridge.demo.Secrets;
import tidybridge.demo.ServiceProcess;

/**
 * {@code ./tidy bench worst}: sends the worst bodies there are to a warm service with a small heap, one after the other and then many at
 * once, and tells the processor time of each. The goal is 50 ms.
 */
final class Worst {

    private static final int HEAP_MEGABYTES = 256;
    private static final int WARM_UPS = 15;
    private static final int MEASURED = 10;
    private static final int AT_ONCE = 40;
    private static final int MILLIS_A_TICK = 10;
    private static final String LINE = "%-42s %12s %12s  %s%n";

    private final Path project;
    private final Path folder;
    private final HttpClient http =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();

    Worst(Path project) throws IOException {
        this.project = project;
        this.folder = Files.createDirectories(project.resolve(".tidy").resolve("bench-worst"));
    }

    void run() throws Exception {
        Secrets secrets = Secrets.in(folder);
        System.err.println("Starting MariaDB and the service ...");
        try (LocalMariaDb database = LocalMariaDb.start(folder.resolve("mariadb"))) {
            DemoDatabase.createRecords(database, secrets.get("records"), secrets.get("records-owner"));
            DemoDatabase.createSource(database, secrets.get("waterways"), DemoSize.SMALL, percent -> {});
            Path workspace = workspace();
            try (ServiceProcess service = ServiceProcess.start(
                    project, workspace, folder, database.port(), Bench.freePort(), HEAP_MEGABYTES, secrets, Map.of())) {
                Bench.publish(service, workspace, folder.resolve("home"));
                measure(service);
            }
        }
    }

    private Path workspace() throws IOException {
        Path workspace = folder.resolve("workspace");
        Path module = Files.createDirectories(workspace.resolve("modules/worst/v1"));
        Files.copy(
                project.resolve("bench/workspace/workspace.yaml"),
                workspace.resolve("workspace.yaml"),
                StandardCopyOption.REPLACE_EXISTING);
        Files.writeString(module.resolve("module.yaml"), """
                module: worst
                version: 1.0.0
                title: What is attacked
                source: waterways
                public: true
                routes:
                  /sink:
                    post:
                      about: Takes all
                      sql: sink.sql
                      answer: value
                      parameters:
                """ + WorstBodies.PARAMETERS.indent(8));
        Files.writeString(
                module.resolve("sink.sql"), "select length(concat_ws('', " + WorstBodies.binds() + ")) as bytes");
        return workspace;
    }

    private void measure(ServiceProcess service) throws Exception {
        URI sink = URI.create(service.address() + "/api/worst/v1/sink");
        System.out.printf(LINE, "worst bodies of 4 MiB", "ms each", "status", "told");
        int above = 0;
        for (Map.Entry<String, String> worst : WorstBodies.all().entrySet()) {
            HttpResponse<String> last = times(WARM_UPS, sink, worst.getValue());
            long before = Bench.processorTicks(service.pid());
            times(MEASURED, sink, worst.getValue());
            double millis = (double) (Bench.processorTicks(service.pid()) - before) * MILLIS_A_TICK / MEASURED;
            above += millis > 50 ? 1 : 0;
            System.out.printf(LINE, worst.getKey(), "%.0f".formatted(millis), last.statusCode(), told(last.body()));
        }
        System.out.println(above == 0 ? "None is above the goal of 50 ms." : above + " are above the goal of 50 ms.");
        long pid = service.pid();
        int refused = flood(sink);
        System.out.println(
                "All of them " + AT_ONCE + " at once: " + refused + " were told to come again, and the service "
                        + (service.isRunning() && service.pid() == pid ? "goes on." : "ENDED."));
    }

    private static String told(String body) {
        String told = body.replaceAll("(?s).*\"detail\":\"([^\"]*)\",\"?in.*|.*\"detail\":\"([^\"]*)\".*", "$1$2");
        return told.length() <= 80 ? told : told.substring(0, 80) + "...";
    }

    private HttpResponse<String> times(int times, URI sink, String body) throws Exception {
        HttpResponse<String> last = null;
        for (int i = 0; i < times; i++) {
            last = send(sink, body);
        }
        return Objects.requireNonNull(last);
    }

    private HttpResponse<String> send(URI sink, String body) throws IOException, InterruptedException {
        return http.send(
                HttpRequest.newBuilder(sink)
                        .header("Content-Type", "application/json")
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    /** How many were refused for want of room. */
    private int flood(URI sink) throws Exception {
        int refused = 0;
        try (ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor()) {
            for (String body : WorstBodies.all().values()) {
                List<Future<HttpResponse<String>>> sent = new ArrayList<>();
                for (int i = 0; i < AT_ONCE; i++) {
                    sent.add(callers.submit(() -> send(sink, body)));
                }
                for (Future<HttpResponse<String>> one : sent) {
                    refused += one.get().statusCode() == 503 ? 1 : 0;
                }
            }
        }
        return refused;
    }
}
