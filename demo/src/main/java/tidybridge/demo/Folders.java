package tidybridge.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** Folders and what is in them. */
public final class Folders {

    private Folders() {}

    /** Deletes a folder with everything in it; links are deleted, not followed. */
    public static void delete(Path folder) throws IOException {
        if (!Files.exists(folder)) {
            return;
        }
        List<Path> paths;
        try (Stream<Path> walk = Files.walk(folder)) {
            paths = walk.sorted(Comparator.reverseOrder()).toList();
        }
        for (Path path : paths) {
            Files.deleteIfExists(path);
        }
    }

    /** Copies a folder with everything in it to where nothing is yet. */
    public static void copy(Path from, Path to) throws IOException {
        try (Stream<Path> walk = Files.walk(from)) {
            for (Path path : (Iterable<Path>) walk::iterator) {
                Files.copy(path, to.resolve(from.relativize(path)), StandardCopyOption.COPY_ATTRIBUTES);
            }
        }
    }
}
