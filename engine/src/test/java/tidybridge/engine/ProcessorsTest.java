package tidybridge.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What counts as a machine without time to spare. */
class ProcessorsTest {

    @TempDir
    private Path folder;

    /** Asks after this many more ticks of work, of rest, and of those that the host took. */
    private boolean areBusyAfter(int worked, int idle, int stolen) throws Exception {
        Path told = folder.resolve("stat");
        Processors processors = new Processors(told);
        Files.writeString(told, "cpu  1000 20 300 50000 70 0 8 900 0 0\ncpu0 1 1 1 1 1 1 1 1 0 0\n");
        processors.wereBusy();
        Files.writeString(
                told, "cpu  %d 20 300 %d 70 0 8 %d 0 0\n".formatted(1000 + worked, 50000 + idle, 900 + stolen));
        return processors.wereBusy();
    }

    @Test
    void workAndWhatTheHostTakesCount() throws Exception {
        assertThat(areBusyAfter(50, 50, 0)).isFalse();
        assertThat(areBusyAfter(50, 45, 5)).isFalse();
        assertThat(areBusyAfter(95, 5, 0)).isTrue();
        assertThat(areBusyAfter(5, 75, 20)).isTrue();
        assertThat(areBusyAfter(0, 0, 0)).isFalse();
    }

    /** On other systems, and where the file is hidden, the JDK tells. */
    @Test
    void nothingIsNeededToAsk() throws Exception {
        Path told = folder.resolve("hidden");
        Processors processors = new Processors(told);
        assertThatCode(processors::wereBusy).doesNotThrowAnyException();
        for (String text : List.of("", "cpu", "cpu 1 2 3\n", "cpu a b c d e f g h i j\n")) {
            Files.writeString(told, text);
            assertThatCode(processors::wereBusy).as(text).doesNotThrowAnyException();
        }
        Files.write(told, new byte[] {'c', 'p', 'u', ' ', (byte) 0xff});
        assertThatCode(processors::wereBusy).as("no text").doesNotThrowAnyException();
    }
}
