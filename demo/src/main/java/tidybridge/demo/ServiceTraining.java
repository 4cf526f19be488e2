package tidybridge.demo;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import tidybridge.cli.Tidy;

/**
 * Makes what keeps a service's start short: a cache of its classes, read and linked as a first run did it, beside the program. Whoever starts the
 * service uses it while it is younger than the program.
 */
public final class ServiceTraining {

    private static final int HEAP_MEGABYTES = 256;

    /**
     * Nothing of what the compilers learnt is kept: a method that the second compiler did not meet here would never be compiled by it in a
     * service, whose calls would take half as much of the processors' time again.
     */
    private static final List<String> CLASSES_ONLY =
            List.of("-XX:+UnlockDiagnosticVMOptions", "-XX:-AOTRecordTraining", "-XX:TieredStopAtLevel=1");

    private static final List<String> CALLS = List.of(
            "/api/moorings/v1/berths/17",
            "/api/passages/v1/passages?limit=2",
            "/ready",
            "/modules",
            "/reference/moorings/v1");

    private ServiceTraining() {}

    /** Where it is kept. */
    static Path cache(Path project) {
        return ServiceProcess.program(project).resolveSibling("service.aot");
    }

    /** {@code ./tidy build}: makes it with a database of its own; the arguments are the project's folder and one for what is needed meanwhile. */
    public static void main(String[] args) throws Exception {
        Path folder = Path.of(args[1]).toAbsolutePath();
        Folders.delete(folder);
        Files.createDirectories(folder);
        make(Path.of(args[0]), folder, () -> LocalMariaDb.start(folder.resolve("mariadb")));
        Folders.delete(folder);
    }

    /** Starts a database that has nothing yet. */
    @FunctionalInterface
    public interface Starting {
        LocalMariaDb start() throws Exception;
    }

    /** Makes it, unless it is there; whoever is at it already is waited for. What it starts ends with this process, if not before. */
    public static void make(Path project, Path folder, Starting starting) throws Exception {
        Path cache = cache(project);
        try (FileChannel channel = FileChannel.open(
                        cache.resolveSibling("service.aot.lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                FileLock held = channel.lock()) {
            if (!Files.exists(cache) || ServiceProcess.isOld(cache, ServiceProcess.program(project))) {
                Path learnt = folder.resolve("service.learnt");
                Stack started = new Stack();
                Runtime.getRuntime().addShutdownHook(new Thread(started::close));
                try {
                    learn(project, folder, started.add(starting.start()), learnt, started);
                } finally {
                    started.close();
                }
                write(project, learnt, cache);
            }
        }
    }

    private static void learn(Path project, Path folder, LocalMariaDb database, Path learnt, Stack started)
            throws IOException, SQLException, InterruptedException {
        Secrets secrets = Secrets.in(folder);
        Path workspace = project.resolve("demo/workspace").toAbsolutePath();
        DemoDatabase.createRecords(database, secrets.get("records"), secrets.get("records-owner"));
        DemoDatabase.createSource(database, secrets.get("waterways"), DemoSize.SMALL, percent -> {});
        ServiceProcess service = started.add(ServiceProcess.start(
                project,
                workspace,
                folder,
                database.port(),
                freePort(),
                HEAP_MEGABYTES,
                secrets,
                Map.of(),
                with("-XX:AOTMode=record", "-XX:AOTConfiguration=" + learnt)));
        String[] publish = {
            "publish",
            "--folder",
            workspace.toString(),
            "--service",
            service.address(),
            "--home",
            folder.resolve("home").toString()
        };
        StringWriter said = new StringWriter();
        if (Tidy.run(publish, new PrintWriter(said), new PrintWriter(said)) != 0) {
            throw new DemoFailure("The demo's modules could not be published: " + said);
        }
        try (HttpClient client = HttpClient.newHttpClient()) {
            for (String call : CALLS) {
                client.send(
                        HttpRequest.newBuilder(URI.create(service.address() + call))
                                .build(),
                        BodyHandlers.discarding());
            }
        }
        service.tellToEnd();
        service.awaitEnd();
    }

    private static void write(Path project, Path learnt, Path cache) throws IOException, InterruptedException {
        Path made = cache.resolveSibling("service.aot.new");
        List<String> command = new ArrayList<>(List.of(ServiceProcess.java()));
        command.addAll(with(
                "-XX:AOTMode=create",
                "-XX:AOTConfiguration=" + learnt,
                "-XX:AOTCache=" + made,
                // the only collector that writes objects too; others read them
                "-XX:+UseG1GC",
                "--enable-native-access=ALL-UNNAMED",
                "-cp",
                ServiceProcess.classPath(project)));
        int code = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(learnt.resolveSibling("write.log").toFile())
                .start()
                .waitFor();
        if (code != 0) {
            throw new DemoFailure("What keeps starts short could not be written.");
        }
        Files.move(made, cache, StandardCopyOption.REPLACE_EXISTING);
    }

    private static List<String> with(String... options) {
        return Stream.concat(CLASSES_ONLY.stream(), Stream.of(options)).toList();
    }

    private static int freePort() throws IOException {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        }
    }
}
