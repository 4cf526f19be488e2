package tidybridge.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;

/** Folders and files that only their owner can read: the demo's logs and data hold secrets. */
final class OwnerOnly {

    private OwnerOnly() {}

    /** Makes the folder if it is not there, and closes it to others in any case. */
    static Path folder(Path folder) throws IOException {
        Files.createDirectories(folder);
        return Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwx------"));
    }

    /** Makes the file anew, empty. */
    static Path file(Path file) throws IOException {
        Files.deleteIfExists(file);
        return Files.createFile(
                file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    }
}
