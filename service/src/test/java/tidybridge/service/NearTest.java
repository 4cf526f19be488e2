package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** The table by which {@code ./tidy test --near} chooses knows every folder and every test. */
class NearTest {

    private static final Path PROJECT = Path.of("..");
    private static final Path PACKAGES = Path.of("src", "main", "java", "tidybridge", "service");
    private static final Path TESTS = Path.of("src", "test", "java", "tidybridge", "service");

    /** They are tried in any case. */
    private static final Set<String> ALWAYS = Set.of("ArchitectureTest", "NearTest", "TidySettingsTest");

    private static Map<String, List<String>> table() throws IOException {
        Map<String, List<String>> table = new LinkedHashMap<>();
        for (String line : Files.readAllLines(Path.of("src", "test", "near.txt"))) {
            if (!line.isBlank() && !line.startsWith("#")) {
                List<String> words = List.of(line.split(" +"));
                table.put(words.getFirst(), words.subList(1, words.size()));
            }
        }
        return table;
    }

    private static Set<String> named(Path folder, String pattern) throws IOException {
        Set<String> names = new TreeSet<>();
        try (DirectoryStream<Path> found = Files.newDirectoryStream(folder, pattern)) {
            found.forEach(file -> names.add(file.getFileName().toString().replaceFirst("\\.java$", "")));
        }
        return names;
    }

    @Test
    void everyLineBeginsWithSomethingThatIsThere() throws IOException {
        assertThat(table().keySet())
                .allSatisfy(place -> assertThat(PROJECT.resolve(place)).exists());
    }

    /** A line behind one that fits more would never be taken. */
    @Test
    void noLineStandsBehindAWiderOne() throws IOException {
        List<String> before = new ArrayList<>();
        for (String place : table().keySet()) {
            assertThat(before).noneMatch(place::startsWith);
            before.add(place);
        }
    }

    @Test
    void everyPackageOfTheServiceHasALine() throws IOException {
        Set<String> packages = new TreeSet<>();
        try (DirectoryStream<Path> found = Files.newDirectoryStream(PACKAGES, Files::isDirectory)) {
            found.forEach(folder -> packages.add("service/" + folder));
        }
        assertThat(table().keySet()).containsAll(packages);
    }

    @Test
    void everyTestIsNamedAndNoneThatIsNotThere() throws IOException {
        Set<String> named = new TreeSet<>();
        table().values().forEach(named::addAll);
        Set<String> tests = named(TESTS, "*Test.java");
        tests.removeAll(ALWAYS);
        assertThat(named).isEqualTo(tests);
    }
}
