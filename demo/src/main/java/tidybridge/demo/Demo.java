package tidybridge.demo;

import java.io.IOException;
import java.io.PrintStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import org.jspecify.annotations.Nullable;
import tidybridge.cli.Tidy;

/**
 * {@code ./tidy demo}: database, data, service and modules, started in that order and stopped together. Stays until it is told to
 * stop by a signal; what it started goes with it.
 */
public final class Demo {

    private static final long NEEDED_BYTES = 1_500L * 1024 * 1024;
    private static final int DEFAULT_PORT = 8480;
    private static final int SERVICE_HEAP_MEGABYTES = 256;

    private final Path project;
    private final Path folder;
    private final PrintStream out;
    private static final String PROVIDER_SECRET = "TIDY_PROVIDER_SECRET";

    private final Progress progress;
    private final int port;
    private final @Nullable Path own;
    private final int nodes;

    private Demo(Path project, Path state, @Nullable Path own, int nodes, PrintStream out, int port) {
        this.own = own;
        this.nodes = nodes;
        this.project = project;
        this.folder = state.resolve("demo").toAbsolutePath();
        this.out = out;
        this.progress = new Progress(out);
        this.port = port;
    }

    /**
     * Runs the demo; the arguments are the project's folder, the folder for its state and, to start over, {@code --fresh},
     * {@code --workspace} with the folder of somebody's own modules, and {@code --nodes} with how many services to start.
     */
    public static void main(String[] args) {
        PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
        try {
            List<String> options = List.of(args);
            int workspace = options.indexOf("--workspace");
            Path own = workspace < 0 ? null : Path.of(options.get(workspace + 1));
            int nodes = options.indexOf("--nodes");
            int count = nodes < 0 ? 1 : Integer.parseInt(options.get(nodes + 1));
            new Demo(Path.of(args[0]), Path.of(args[1]), own, count, out, port()).run(options.contains("--fresh"));
        } catch (DemoFailure e) {
            out.println();
            System.err.println("tidy: " + e.getMessage());
            System.exit(1);
        } catch (IOException | SQLException e) {
            out.println();
            System.err.println("tidy: The demo could not start: " + e.getMessage());
            System.exit(1);
        }
    }

    private static int port() {
        String text = System.getenv("TIDY_PORT");
        if (text == null || text.isBlank()) {
            return DEFAULT_PORT;
        }
        if (!text.matches("\\d{1,5}") || Integer.parseInt(text) < 1 || Integer.parseInt(text) > 65_535) {
            throw new DemoFailure("TIDY_PORT must be a port from 1 to 65535.");
        }
        return Integer.parseInt(text);
    }

    private void run(boolean fresh) throws IOException, SQLException {
        OwnerOnly.folder(folder);
        Leftovers leftovers = new Leftovers(folder);
        leftovers.refuseRunning();
        leftovers.stop();
        for (int taken = port; taken <= (nodes == 1 ? port : port + nodes); taken++) {
            ServiceProcess.refuseTakenPort(taken);
        }
        if (fresh) {
            Folders.delete(folder);
            OwnerOnly.folder(folder);
        }
        if (Files.getFileStore(folder).getUsableSpace() < NEEDED_BYTES) {
            throw new DemoFailure(
                    "The disk that holds " + folder + " has less than 1.5 GB free; make room and start again.");
        }
        leftovers.claim();
        CountDownLatch stopped = new CountDownLatch(1);
        Stack started = new Stack();
        Runtime.getRuntime().addShutdownHook(new Thread(() -> {
            started.close();
            leftovers.release();
            stopped.countDown();
        }));
        start(started);
        awaitEnd(started, stopped);
    }

    private void start(Stack started) throws IOException, SQLException {
        Secrets secrets = Secrets.in(folder);
        progress.begin("Starting MariaDB on loopback");
        LocalMariaDb database = started.add(LocalMariaDb.start(folder.resolve("mariadb")));
        progress.done("port " + database.port());
        progress.begin("Preparing the record schema");
        DemoDatabase.createRecords(database, secrets.get("records"), secrets.get("records-owner"));
        progress.done("");
        progress.begin("Loading Marrowby Waterways");
        DemoDatabase.createSource(database, secrets.get("waterways"), DemoSize.FULL, progress::percent);
        progress.done("");
        progress.begin("Starting the service");
        StandInProvider provider = started.add(StandInProvider.start(secrets.get("provider")));
        Map<String, String> environment = Map.of(
                PROVIDER_SECRET,
                secrets.get("provider"),
                "SPRING_APPLICATION_JSON",
                provider.settings(PROVIDER_SECRET));
        String address = "http://127.0.0.1:" + port;
        if (nodes == 1) {
            started.add(service(folder, database, port, secrets, environment));
        } else {
            startNodes(started, database, secrets, environment);
        }
        DemoDatabase.shareOutcomes(database);
        progress.done(nodes == 1 ? address : nodes + " nodes behind " + address);
        Path workspace = own;
        if (workspace == null) {
            publishDemo();
            progress.begin("Giving people and applications access");
            new DemoAccess(folder.resolve("keys"), secrets, this::command).make();
            progress.done("");
        } else {
            publishOwn(workspace);
        }
        Files.writeString(folder.resolve("ready"), address);
        welcome(address);
    }

    private ServiceProcess service(
            Path where, LocalMariaDb database, int listening, Secrets secrets, Map<String, String> environment)
            throws IOException {
        return ServiceProcess.start(
                project, workspace(), where, database.port(), listening, SERVICE_HEAP_MEGABYTES, secrets, environment);
    }

    /** The nodes share one home, so that the administrator's token is the same on each. */
    private void startNodes(Stack started, LocalMariaDb database, Secrets secrets, Map<String, String> environment)
            throws IOException {
        NodeGroup group = started.add(new NodeGroup());
        List<Integer> ports = new ArrayList<>();
        for (int i = 1; i <= nodes; i++) {
            Map<String, String> own = new HashMap<>(environment);
            own.put("TIDY_HOME", folder.resolve("home").toString());
            own.put("TIDY_NODE", "node-" + i);
            own.put("TIDY_PROXIES", "127.0.0.1");
            own.put("TIDY_LEAVENOTICE", "1s");
            Path where = OwnerOnly.folder(folder.resolve("node-" + i));
            group.add(service(where, database, port + i, secrets, own));
            ports.add(port + i);
        }
        started.add(Balancer.start(folder, port, ports));
    }

    private Path workspace() {
        return own == null ? project.resolve("demo/workspace").toAbsolutePath() : own;
    }

    private void publishDemo() {
        progress.begin("Publishing the demo's modules");
        try {
            command("publish", "--folder", workspace().toString());
        } catch (DemoFailure e) {
            if (String.valueOf(e.getMessage()).contains("Callers were promised something else")) {
                progress.done("what was published since stays live; './tidy demo --fresh' starts over");
                return;
            }
            // a checkout that was updated brings other texts under the versions that an earlier demo released
            if (String.valueOf(e.getMessage()).contains("published already with another text")) {
                throw new DemoFailure("The demo's modules are not those of its last start, and a release never changes;"
                        + " type './tidy demo --fresh' to start over, or raise their versions.");
            }
            throw e;
        }
        progress.done("");
    }

    /** Somebody's own text may be unfinished; the service stays, so that they can go on. */
    private void publishOwn(Path workspace) {
        progress.begin("Publishing the modules in " + workspace);
        try {
            command("publish", "--folder", workspace.toString());
            progress.done("");
        } catch (DemoFailure e) {
            progress.done("not yet");
            out.println(e.getMessage());
        }
    }

    private void welcome(String address) {
        out.println();
        out.println(
                "Console   " + command("console").strip() + "   (signs in once; './tidy console' prints another link)");
        if (own == null) {
            out.println(
                    "A call    curl '" + address + "/api/moorings/v1/berths?from=2031-05-01&until=2031-05-04&limit=3'");
            out.println("With a key curl -H \"Authorization: Bearer $(cat " + folder.resolve("keys/toll-office")
                    + ")\" '" + address + "/api/tolls/v1/vessels/MW-10000/locks/3/toll'");
            out.println("Reference curl '" + address + "/api/moorings/v1/openapi.yaml', and as a page " + address
                    + "/reference/moorings/v1");
        } else {
            out.println("Publish   ./tidy publish --folder '" + own + "'");
        }
        if (nodes > 1) {
            out.println(
                    "Nodes     ./tidy nodes   (end one with kill -9: it is started again, and no other caller notices)");
        }
        out.println("To stop   Ctrl-C here, or './tidy stop' from anywhere in this checkout");
    }

    /** Runs a command of the command line in this process and hands back what it printed. */
    private String command(String... args) {
        StringWriter output = new StringWriter();
        StringWriter errors = new StringWriter();
        String[] all = new String[args.length + 4];
        System.arraycopy(args, 0, all, 0, args.length);
        all[args.length] = "--service";
        all[args.length + 1] = "http://127.0.0.1:" + port;
        all[args.length + 2] = "--home";
        all[args.length + 3] = folder.resolve("home").toString();
        int code = Tidy.run(all, new PrintWriter(output), new PrintWriter(errors));
        if (code != 0) {
            throw new DemoFailure((output + "\n" + errors).strip().replaceFirst("^tidy: ", ""));
        }
        return output.toString();
    }

    private static void awaitEnd(Stack started, CountDownLatch stopped) {
        try {
            String ended = started.awaitFirstEnd(stopped);
            if (ended != null) {
                throw new DemoFailure(ended);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
