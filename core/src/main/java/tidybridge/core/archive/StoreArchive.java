package tidybridge.core.archive;

import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.Set;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** An archive that is whole: every file that it says it holds is there, with every byte. */
public final class StoreArchive implements AutoCloseable {

    /** Some 200,000 files. */
    private static final int LONGEST_MANIFEST = 64 * 1024 * 1024;

    private static final int BLOCK = 64 * 1024;

    private final ZipFile zip;
    private final Manifest manifest;

    private StoreArchive(ZipFile zip, Manifest manifest) {
        this.zip = zip;
        this.manifest = manifest;
    }

    /**
     * Opens an archive after reading all of it.
     *
     * @throws DamagedArchive when it is not whole, or of a form that this program does not know
     * @throws IOException when the file cannot be read
     */
    public static StoreArchive open(Path file) throws DamagedArchive, IOException {
        ZipFile zip;
        try {
            zip = new ZipFile(file.toFile());
        } catch (ZipException | EOFException | IllegalArgumentException e) {
            throw damaged(file, "it is no ZIP archive, or its end is missing");
        }
        try {
            Manifest manifest = manifest(zip, file);
            check(zip, file, manifest);
            return new StoreArchive(zip, manifest);
        } catch (ZipException | EOFException | IllegalArgumentException e) {
            zip.close();
            throw damaged(file, "a file in it cannot be unpacked");
        } catch (DamagedArchive | IOException | RuntimeException e) {
            zip.close();
            throw e;
        }
    }

    private static DamagedArchive damaged(Path file, String why) {
        return new DamagedArchive(file + " is not a whole archive of a record store: " + why + ".");
    }

    private static Manifest manifest(ZipFile zip, Path file) throws DamagedArchive, IOException {
        ZipEntry entry = zip.getEntry(Manifest.FILE);
        if (entry == null) {
            throw damaged(file, Manifest.FILE + " is missing");
        }
        try (InputStream in = zip.getInputStream(entry)) {
            byte[] bytes = in.readNBytes(LONGEST_MANIFEST + 1);
            if (bytes.length > LONGEST_MANIFEST) {
                throw damaged(file, Manifest.FILE + " is longer than any archive's");
            }
            // the file that has all digests has none itself
            CRC32 sum = new CRC32();
            sum.update(bytes);
            if (sum.getValue() != entry.getCrc()) {
                throw damaged(file, Manifest.FILE + " has other bytes than it was written with");
            }
            Manifest manifest = JsonMapper.shared().readValue(bytes, Manifest.class);
            if (manifest.form() != Manifest.FORM) {
                throw new DamagedArchive(file + " has the form " + manifest.form()
                        + ", and this program knows the form " + Manifest.FORM + ".");
            }
            return manifest;
        } catch (JacksonException | NullPointerException e) {
            throw damaged(file, Manifest.FILE + " cannot be read");
        }
    }

    private static void check(ZipFile zip, Path file, Manifest manifest) throws DamagedArchive, IOException {
        Set<String> known = new HashSet<>(Set.of(Manifest.FILE));
        for (Manifest.Entry said : manifest.files()) {
            known.add(said.name());
            ZipEntry entry = zip.getEntry(said.name());
            if (entry == null) {
                throw damaged(file, said.name() + " is missing");
            }
            if (!digest(zip, entry).equals(said.sha256())) {
                throw damaged(file, said.name() + " has other bytes than it was written with");
            }
        }
        if (known.size() != zip.size()) {
            throw damaged(file, "it holds files that it does not name");
        }
    }

    private static String digest(ZipFile zip, ZipEntry entry) throws IOException {
        MessageDigest digest = Digests.sha256();
        byte[] block = new byte[BLOCK];
        try (InputStream in = zip.getInputStream(entry)) {
            for (int read = in.read(block); read >= 0; read = in.read(block)) {
                digest.update(block, 0, read);
            }
        }
        return HexFormat.of().formatHex(digest.digest());
    }

    public Manifest manifest() {
        return manifest;
    }

    /** The bytes of a file that the manifest names. */
    public InputStream read(String name) throws IOException {
        ZipEntry entry = zip.getEntry(name);
        if (entry == null) {
            throw new IllegalArgumentException(name + " is not in the archive");
        }
        return zip.getInputStream(entry);
    }

    @Override
    public void close() throws IOException {
        zip.close();
    }
}
