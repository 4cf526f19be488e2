package tidybridge.service;

import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Map;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.DemoSize;
import tidybridge.demo.Folders;
import tidybridge.demo.LocalMariaDb;
import tidybridge.demo.Secrets;
import tidybridge.demo.ServiceProcess;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.TestFolder;

/**
 * An archive of the service's classes beside the program, made once for all who start it as a process: the first run of a service makes one in
 * any case, and each of them would make its own.
 */
final class ServiceArchive {

    private static final Path PROJECT = Path.of("..").toAbsolutePath().normalize();
    private static final Path PROGRAM = PROJECT.resolve("service/target/service-0.1.0.jar");
    private static final Path ARCHIVE = PROGRAM.resolveSibling("service.jsa");
    private static final int HEAP_MEGABYTES = 160;

    private ServiceArchive() {}

    /** Makes it, unless somebody else did; whoever is at it is waited for. */
    static void make() throws Exception {
        try (FileChannel channel = FileChannel.open(
                        PROGRAM.resolveSibling("service.jsa.lock"),
                        StandardOpenOption.CREATE,
                        StandardOpenOption.WRITE);
                FileLock held = channel.lock()) {
            if (!Files.exists(ARCHIVE)
                    || Files.getLastModifiedTime(ARCHIVE).compareTo(Files.getLastModifiedTime(PROGRAM)) < 0) {
                makeAnew();
            }
        }
    }

    private static void makeAnew() throws Exception {
        Path folder = TestFolder.of("archive").toAbsolutePath();
        Folders.delete(folder);
        Files.createDirectories(folder);
        Files.deleteIfExists(ARCHIVE);
        Secrets secrets = Secrets.in(folder);
        try (LocalMariaDb database = TestDatabase.start("archive")) {
            DemoDatabase.createRecords(database, secrets.get("records"), secrets.get("records-owner"));
            DemoDatabase.createSource(database, secrets.get("waterways"), DemoSize.SMALL, percent -> {});
            ServiceProcess.start(
                            PROJECT,
                            PROJECT.resolve("demo/workspace"),
                            folder,
                            database.port(),
                            freePort(),
                            HEAP_MEGABYTES,
                            secrets,
                            Map.of("JAVA_TOOL_OPTIONS", "-XX:TieredStopAtLevel=1"))
                    .close();
        }
        Files.move(folder.resolve("service.jsa"), ARCHIVE, StandardCopyOption.REPLACE_EXISTING);
    }

    private static int freePort() throws Exception {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        }
    }
}
