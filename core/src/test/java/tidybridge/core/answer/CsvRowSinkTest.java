package tidybridge.core.answer;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class CsvRowSinkTest {

    private static String written(List<String> names, boolean header, Consumer<CsvRowSink> rows) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (CsvRowSink sink = new CsvRowSink(out, names, header)) {
            rows.accept(sink);
        }
        return out.toString(StandardCharsets.UTF_8);
    }

    /** The one cell of a row of two, whose other one is empty. */
    private static String cell(Consumer<CsvRowSink> value) {
        String row = written(List.of("a", "b"), false, sink -> {
            sink.beginObject();
            sink.name(new FieldName("a"));
            value.accept(sink);
            sink.name(new FieldName("b"));
            sink.nothing();
            sink.endObject();
        });
        assertThat(row).endsWith(",\r\n");
        return row.substring(0, row.length() - 3);
    }

    @ParameterizedTest
    @CsvSource(quoteCharacter = '`', delimiter = '|', textBlock = """
            Heron Pool      | Heron Pool
            Heron, Pool     | "Heron, Pool"
            6" deep         | "6"" deep"
            ` led`          | `" led"`
            ``              | ""
            Zürich 🚤 ǆ     | Zürich 🚤 ǆ
            """)
    void textsAreQuotedWhereTheyMust(String text, String cell) {
        assertThat(cell(sink -> sink.text(text))).isEqualTo(cell);
    }

    @ParameterizedTest
    @ValueSource(strings = {"=1+1", "+44 20", "-2", "@SUM(A1)", "\tx", "\rx", "\nx", "'quoted", "\uff1d1", "\uff0b1"})
    void whatASpreadsheetWouldRunIsMadeAText(String text) {
        assertThat(cell(sink -> sink.text(text))).isEqualTo("\"'" + text + "\"");
    }

    @Test
    void numbersAreWrittenWithAllOfTheirDigits() {
        assertThat(cell(sink -> sink.integer(-7))).isEqualTo("-7");
        assertThat(cell(sink -> sink.decimal("-0.10"))).isEqualTo("-0.10");
        assertThat(cell(sink -> sink.whole(new BigInteger("18446744073709551615"))))
                .isEqualTo("18446744073709551615");
        assertThat(cell(sink -> sink.real(1e300))).isEqualTo("1.0E300");
        assertThat(cell(sink -> sink.truth(true))).isEqualTo("true");
        assertThat(cell(sink -> sink.bytes(new byte[] {1, 2}))).isEqualTo("AQI=");
        assertThat(cell(sink -> sink.json("{\"a\":1}"))).isEqualTo("\"{\"\"a\"\":1}\"");
        assertThat(cell(CsvRowSink::nothing)).isEmpty();
    }

    @Test
    void aTableOfOneColumnHasNoEmptyLine() {
        String table = written(List.of("note"), true, sink -> {
            sink.beginObject();
            sink.name(new FieldName("note"));
            sink.nothing();
            sink.endObject();
        });
        assertThat(table).isEqualTo("note\r\n\"\"\r\n");
    }

    /** More than the buffer holds, with characters of several bytes across its end. */
    @Test
    void longTextsLoseNothing() {
        for (int offset = 0; offset < 4; offset++) {
            String text = "x".repeat(offset) + "aß€🚤".repeat(5_000);
            assertThat(cell(sink -> sink.text(text))).isEqualTo(text);
        }
    }

    @Test
    void whatIsCutOffEndsInsideOfACell() {
        String table = written(List.of("a"), true, CsvRowSink::cutOff);
        assertThat(table.chars().filter(c -> c == '"').count()).isOdd();
    }

    @Test
    void linesOfJsonEndEach() {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (NdjsonRowSink sink = new NdjsonRowSink(out)) {
            for (int i = 0; i < 2; i++) {
                sink.beginObject();
                sink.name(new FieldName("a"));
                sink.beginObject();
                sink.name(new FieldName("b"));
                sink.integer(i);
                sink.endObject();
                sink.endObject();
            }
        }
        assertThat(out.toString(StandardCharsets.UTF_8)).isEqualTo("{\"a\":{\"b\":0}}\n{\"a\":{\"b\":1}}\n");
    }
}
