package tidybridge.service;

import java.nio.file.Files;
import java.nio.file.Path;
import tidybridge.demo.Folders;
import tidybridge.demo.ServiceTraining;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.TestFolder;

/** What keeps a service's start short, made once for all tests that start one as a process. */
final class ServiceArchive {

    private ServiceArchive() {}

    /** Makes it, unless somebody else did; whoever is at it is waited for. */
    static void make() throws Exception {
        Path folder = TestFolder.of("archive").toAbsolutePath();
        Folders.delete(folder);
        Files.createDirectories(folder);
        ServiceTraining.make(Path.of("..").toAbsolutePath().normalize(), folder, () -> TestDatabase.start("archive"));
    }
}
