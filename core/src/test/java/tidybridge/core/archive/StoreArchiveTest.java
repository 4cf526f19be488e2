package tidybridge.core.archive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.core.TestScope;

class StoreArchiveTest {

    private static final Instant AT = Instant.parse("2031-05-01T10:00:00Z");

    @TempDir
    Path folder;

    private static byte[] archive() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ArchiveWriter writer = new ArchiveWriter(out);
        writer.add("tables/person.ndjson", file -> {
            write(file, "{\"name\":\"mara\"}\n{\"name\":\"joss\"}\n");
            return 2;
        });
        writer.add("tables/session.ndjson", file -> 0);
        writer.add("releases/moorings/1.0.0/berths.sql", file -> {
            write(file, "select 'é' as letter\n".repeat(200));
            return 0;
        });
        writer.end("0.1.0", AT, 13);
        return out.toByteArray();
    }

    private static void write(OutputStream out, String text) throws IOException {
        out.write(text.getBytes(StandardCharsets.UTF_8));
    }

    private Path file(byte[] bytes) throws IOException {
        return Files.write(folder.resolve("store.zip"), bytes);
    }

    private static Map<String, String> read(Path file) throws Exception {
        Map<String, String> all = new TreeMap<>();
        try (StoreArchive archive = StoreArchive.open(file)) {
            for (Manifest.Entry entry : archive.manifest().files()) {
                all.put(entry.name(), new String(archive.read(entry.name()).readAllBytes(), StandardCharsets.UTF_8));
            }
        }
        return all;
    }

    @Test
    void whatIsWrittenIsRead() throws Exception {
        Path file = file(archive());
        try (StoreArchive archive = StoreArchive.open(file)) {
            assertThat(archive.manifest().form()).isEqualTo(Manifest.FORM);
            assertThat(archive.manifest().program()).isEqualTo("0.1.0");
            assertThat(archive.manifest().madeAt()).isEqualTo(AT);
            assertThat(archive.manifest().schema()).isEqualTo(13);
            assertThat(archive.manifest().files())
                    .extracting(Manifest.Entry::name, Manifest.Entry::rows)
                    .containsExactly(
                            tuple("tables/person.ndjson", 2L),
                            tuple("tables/session.ndjson", 0L),
                            tuple("releases/moorings/1.0.0/berths.sql", 0L));
        }
        assertThat(read(file))
                .containsEntry("tables/person.ndjson", "{\"name\":\"mara\"}\n{\"name\":\"joss\"}\n")
                .containsEntry("tables/session.ndjson", "");
    }

    /** Wherever it is cut off, it is not whole. */
    @Test
    void whatIsCutOffIsRefused() throws Exception {
        byte[] whole = archive();
        for (int length = 0; length < whole.length; length++) {
            Path file = file(Arrays.copyOf(whole, length));
            assertThatThrownBy(() -> StoreArchive.open(file))
                    .as("%d of %d bytes", length, whole.length)
                    .isInstanceOf(DamagedArchive.class)
                    .hasMessageStartingWith(file + " is not a whole archive");
        }
    }

    /** A byte that changed is found, or it was one that says nothing, such as a file's time. */
    @Test
    void whatChangedIsRefusedOrReadAsItWas() throws Exception {
        byte[] whole = archive();
        Map<String, String> before = read(file(whole));
        Random random = new Random(20310501);
        int refused = 0;
        int rounds = TestScope.rounds(2_000);
        for (int i = 0; i < rounds; i++) {
            byte[] changed = whole.clone();
            changed[random.nextInt(changed.length)] ^= (byte) (1 + random.nextInt(255));
            try {
                assertThat(read(file(changed))).isEqualTo(before);
            } catch (DamagedArchive e) {
                refused++;
            }
        }
        assertThat(refused).isGreaterThan(rounds / 2);
    }

    @Test
    void anotherArchiveIsRefused() throws Exception {
        Path text = file("no archive at all".getBytes(StandardCharsets.UTF_8));
        assertThatThrownBy(() -> StoreArchive.open(text)).hasMessageContaining("it is no ZIP archive");
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            zip.putNextEntry(new ZipEntry("holiday.jpg"));
        }
        Path other = file(out.toByteArray());
        assertThatThrownBy(() -> StoreArchive.open(other)).hasMessageContaining("archive.json is missing");
    }

    @Test
    void aLaterFormIsRefused() throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            zip.putNextEntry(new ZipEntry(Manifest.FILE));
            write(
                    zip,
                    "{\"form\":2,\"program\":\"9.0.0\",\"madeAt\":\"2041-01-01T00:00:00Z\",\"schema\":99,\"files\":[]}");
        }
        Path file = file(out.toByteArray());
        assertThatThrownBy(() -> StoreArchive.open(file))
                .isInstanceOf(DamagedArchive.class)
                .hasMessage(file + " has the form 2, and this program knows the form 1.");
    }
}
