package tidybridge.core.answer;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

class RowWriterTest {

    /** A row of texts, read as a driver would. */
    private static final class TextRow implements Row {
        private final @Nullable String[] values;
        private boolean wasNull;

        TextRow(@Nullable String... values) {
            this.values = values;
        }

        @Override
        public @Nullable String text(int field) {
            wasNull = values[field] == null;
            return values[field];
        }

        @Override
        public long integer(int field) {
            String text = text(field);
            return text == null ? 0 : Long.parseLong(text);
        }

        @Override
        public double real(int field) {
            String text = text(field);
            return text == null ? 0 : Double.parseDouble(text);
        }

        @Override
        public byte @Nullable [] bytes(int field) {
            String text = text(field);
            return text == null ? null : text.getBytes(StandardCharsets.UTF_8);
        }

        @Override
        public boolean wasNull() {
            return wasNull;
        }
    }

    private static String write(List<Field> fields, @Nullable String... values) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = new JsonFactory().createGenerator(ObjectWriteContext.empty(), text)) {
            new RowWriter(fields).write(new TextRow(values), json);
        }
        return text.toString();
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
        assertThat(write(List.of(new Field("v", type, true)), value)).isEqualTo("{\"v\":" + json + "}");
    }

    @ParameterizedTest
    @EnumSource(FieldType.class)
    void nullIsNullWhateverTheType(FieldType type) {
        assertThat(write(List.of(new Field("v", type, true)), (String) null)).isEqualTo("{\"v\":null}");
    }

    @Test
    void fieldsKeepTheirOrder() {
        List<Field> fields = Arrays.asList(
                new Field("z", FieldType.INTEGER, false),
                new Field("a", FieldType.STRING, true),
                new Field("m", FieldType.BOOLEAN, false));
        assertThat(write(fields, "1", null, "1")).isEqualTo("{\"z\":1,\"a\":null,\"m\":true}");
    }
}
