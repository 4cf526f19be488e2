package tidybridge.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tidybridge.core.archive.DamagedArchive;
import tidybridge.core.archive.Manifest;
import tidybridge.core.archive.StoreArchive;

/** {@code ./tidy backup tidy.zip} */
@Command(
        name = "backup",
        description =
                "Write all that the service remembers into one file: releases, access, audit trail, its own keys.",
        footer = {
            "",
            "The file is a ZIP archive of JSON lines and of the releases' texts. Whoever has it has the service's secrets: keep it where nobody else reads it.",
            "'./tidy restore FILE' fills an empty record store from it.",
            "",
            "Example:",
            "  ./tidy backup tidy-records.zip"
        })
final class BackupCommand extends ServiceCommand {

    private static final int BLOCK = 64 * 1024;

    @Parameters(
            paramLabel = "FILE",
            description = "Where to; a file that is there is replaced once the new one is whole.")
    private Path to = Path.of("");

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        Path part = to.resolveSibling(to.getFileName() + ".part");
        try {
            fetch(part);
            Manifest manifest = checked(part);
            Files.move(part, to, StandardCopyOption.REPLACE_EXISTING);
            if (!json.print(Service.tree(manifest), out())) {
                long rows = manifest.files().stream()
                        .mapToLong(Manifest.Entry::rows)
                        .sum();
                out().println("Written to " + to + ": " + rows + " rows and "
                        + manifest.files().stream()
                                .filter(file -> file.name().startsWith("releases/"))
                                .count()
                        + " files of text, " + Files.size(to) / 1024 + " KB. It holds secrets.");
            }
            return 0;
        } catch (IOException e) {
            throw CommandFailure.refused(
                    "The file " + to + " cannot be written, or the connection broke: " + e.getMessage());
        } finally {
            delete(part);
        }
    }

    private void fetch(Path part) throws IOException {
        Files.deleteIfExists(part);
        Files.createFile(part, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        HttpResponse<InputStream> response = service().stream("/desk/archive", Map.of());
        Service.expectStreamed(response);
        boolean watched = System.console() != null;
        ExportProgress progress = new ExportProgress(err(), watched, 0);
        try (InputStream in = response.body();
                OutputStream out = Files.newOutputStream(part)) {
            byte[] block = new byte[BLOCK];
            for (int read = in.read(block); read >= 0; read = in.read(block)) {
                out.write(block, 0, read);
                progress.moved(-1, read);
            }
        }
        if (watched) {
            progress.end("");
        }
    }

    private static Manifest checked(Path part) throws IOException {
        try (StoreArchive archive = StoreArchive.open(part)) {
            return archive.manifest();
        } catch (DamagedArchive e) {
            throw CommandFailure.refused(
                    "What the service sent is not whole, and was thrown away; try again, and look into the service's log.");
        }
    }

    private static void delete(Path part) {
        try {
            Files.deleteIfExists(part);
        } catch (IOException e) {
            // it could not be written either
        }
    }
}
