package tidybridge.core.answer;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.Mask;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

class RowWriterTest {

    private static final MaskKey KEY = new MaskKey(new byte[] {1, 2, 3});

    private static final Predicate<String> NOBODY = privilege -> false;

    private static String write(List<ShapedField> fields, @Nullable String... values) {
        return write(new RowWriters(fields, KEY).of(NOBODY), values);
    }

    private static String write(RowWriter writer, @Nullable String... values) {
        return written(sink -> writer.write(new TextRow(values), sink));
    }

    private static String written(Consumer<RowSink> writing) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (RowSink sink = new JsonRowSink(bytes)) {
            writing.accept(sink);
        }
        return bytes.toString(StandardCharsets.UTF_8);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
                    INTEGER         | -9223372036854775808       | -9223372036854775808
                    DECIMAL         | 12345678901234567890.12300 | 12345678901234567890.12300
                    DECIMAL         | 18446744073709551615       | 18446744073709551615
                    FLOAT           | 0.1                        | 0.1
                    BOOLEAN         | 1                          | true
                    BOOLEAN         | 0                          | false
                    STRING          | say "é"                    | "say \\"é\\""
                    DATE            | 2031-05-01                 | "2031-05-01"
                    TIME            | 838:59:59                  | "838:59:59"
                    LOCAL_DATE_TIME | 2031-05-01 12:30:00.5      | "2031-05-01T12:30:00.5"
                    MOMENT          | 2031-05-01 12:30:00        | "2031-05-01T12:30:00Z"
                    JSON            | {"a": [1, null]}           | {"a": [1, null]}
                    BINARY          | abc                        | "YWJj"
                    """)
    void valuesAreWrittenExactly(FieldType type, String value, String json) {
        assertThat(write(List.of(ShapedField.plain(0, "v", type, true)), value)).isEqualTo("{\"v\":" + json + "}");
    }

    @ParameterizedTest
    @EnumSource(FieldType.class)
    void nullIsNullWhateverTheType(FieldType type) {
        assertThat(write(List.of(ShapedField.plain(0, "v", type, true)), (String) null))
                .isEqualTo("{\"v\":null}");
    }

    @Test
    void fieldsKeepTheirOrder() {
        List<ShapedField> fields = List.of(
                ShapedField.plain(0, "z", FieldType.INTEGER, false),
                ShapedField.plain(1, "a", FieldType.STRING, true),
                ShapedField.plain(2, "m", FieldType.BOOLEAN, false));
        assertThat(write(fields, "1", null, "1")).isEqualTo("{\"z\":1,\"a\":null,\"m\":true}");
    }

    private static ShapedField at(int column, String path, FieldType type, boolean nullable) {
        return new ShapedField(
                column, List.of(path.split("\\.")), type, nullable, null, null, false, null, null, List.of(), null);
    }

    @Test
    void dottedNamesMakeObjectsAndAnObjectOfNullsIsNull() {
        List<ShapedField> fields = List.of(
                at(0, "id", FieldType.INTEGER, false),
                at(1, "basin.name", FieldType.STRING, true),
                at(2, "basin.town.name", FieldType.STRING, true),
                at(3, "rate", FieldType.DECIMAL, false),
                at(4, "basin.depth", FieldType.DECIMAL, true));
        assertThat(write(fields, "1", "Heron Pool", "Marrowby", "2.50", null))
                .isEqualTo(
                        "{\"id\":1,\"basin\":{\"name\":\"Heron Pool\",\"town\":{\"name\":\"Marrowby\"},\"depth\":null},\"rate\":2.50}");
        assertThat(write(fields, "1", null, null, "2.50", null)).isEqualTo("{\"id\":1,\"basin\":null,\"rate\":2.50}");
    }

    @Test
    void aValueIsWrittenAloneHoweverItsNameNests() {
        RowWriter writer = new RowWriters(List.of(at(0, "a.b", FieldType.DECIMAL, false)), KEY).of(NOBODY);
        assertThat(written(sink -> writer.writeValue(new TextRow("2.50"), sink)))
                .isEqualTo("2.50");
    }

    @Test
    void numbersCanTravelAsText() {
        ShapedField big = new ShapedField(
                0, List.of("v"), FieldType.DECIMAL, false, null, null, true, null, null, List.of(), null);
        assertThat(write(List.of(big), "18446744073709551615")).isEqualTo("{\"v\":\"18446744073709551615\"}");
    }

    @ParameterizedTest
    @CsvSource({
        "whole,quay@marrowby.example,****",
        "email,quay@marrowby.example,q****@marrowby.example",
        "email,no address,****",
        "last-4,0123456789,****6789",
        "last-4,1234567,****",
        "last-2,éàüö,****üö"
    })
    void masksShowNoMoreThanTheySay(String mask, String value, String shown) {
        RowWriters writers = new RowWriters(List.of(maskedField(mask, FieldType.STRING)), KEY);
        assertThat(write(writers.of(NOBODY), value)).isEqualTo("{\"v\":\"" + shown + "\"}");
        assertThat(write(writers.of("contacts"::equals), value)).isEqualTo("{\"v\":\"" + value + "\"}");
        assertThat(write(writers.of("others"::equals), value)).contains(shown);
    }

    @Test
    void writersAreMadeOnceForEachSetOfPrivileges() {
        RowWriters writers = new RowWriters(List.of(maskedField("whole", FieldType.STRING)), KEY);
        assertThat(writers.of("contacts"::equals)).isSameAs(writers.of(privilege -> true));
        assertThat(writers.of(NOBODY))
                .isSameAs(writers.of("others"::equals))
                .isNotSameAs(writers.of("contacts"::equals));
        RowWriters open = new RowWriters(List.of(ShapedField.plain(0, "v", FieldType.STRING, false)), KEY);
        assertThat(open.of(NOBODY)).isSameAs(open.of(privilege -> true));
    }

    private static ShapedField maskedField(String mask, FieldType type) {
        return new ShapedField(
                0,
                List.of("v"),
                type,
                false,
                Mask.parse(mask).orElseThrow(),
                "contacts",
                false,
                null,
                null,
                List.of(),
                null);
    }

    private static RowWriter masked(String mask, FieldType type) {
        return new RowWriters(List.of(maskedField(mask, type)), KEY).of(NOBODY);
    }

    @Test
    void hashesAreEqualForEqualValuesAndDependOnTheKey() {
        String one = write(masked("hash", FieldType.STRING), "quay@marrowby.example");
        assertThat(one).isEqualTo(write(masked("hash", FieldType.STRING), "quay@marrowby.example"));
        assertThat(one).isNotEqualTo(write(masked("hash", FieldType.STRING), "quay@marrowby.exampl"));
        assertThat(one).matches("\\{\"v\":\"[0-9a-f]{32}\"}");
        assertThat(new MaskKey(new byte[] {9}).mask(new Mask.Hash(), "quay@marrowby.example"))
                .isNotEqualTo(KEY.mask(new Mask.Hash(), "quay@marrowby.example"));
    }

    @Test
    void aMaskedNumberIsNull() {
        assertThat(write(masked("whole", FieldType.INTEGER), "5")).isEqualTo("{\"v\":null}");
        assertThat(write(masked("whole", FieldType.STRING), (String) null)).isEqualTo("{\"v\":null}");
    }

    /** Well-known binary with the server's four bytes ahead, as hexadecimal digits. */
    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
                    0101000000000000000000F03F0000000000000440 | {"type":"Point","coordinates":[1,2.5]}
                    01020000000200000000000000000000000000000000000000000000000000F03F0000000000000040 | {"type":"LineString","coordinates":[[0,0],[1,2]]}
                    0104000000010000000101000000000000000000F03F0000000000000440 | {"type":"MultiPoint","coordinates":[[1,2.5]]}
                    0107000000010000000101000000000000000000F03F0000000000000440 | {"type":"GeometryCollection","geometries":[{"type":"Point","coordinates":[1,2.5]}]}
                    010100000000000000 | null
                    0109000000 | null
                    0102000000FFFFFF7F | null
                    """)
    void geometriesAreGeoJson(String binary, String json) {
        StringWriter text = new StringWriter();
        try (JsonGenerator generator = new JsonFactory().createGenerator(ObjectWriteContext.empty(), text)) {
            GeoJson.write(java.util.HexFormat.of().parseHex("00000000" + binary), generator);
        }
        assertThat(text).hasToString(json);
    }
}
