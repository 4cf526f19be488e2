package tidybridge.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import tidybridge.core.answer.JsonRowSink;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.answer.RowShape;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.answer.RowWriters;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.answer.TextRow;
import tidybridge.core.catalog.FieldType;

class ChoicesTest {

    private static final List<ShapedField> FIELDS = List.of(
            field(0, "id", false),
            field(1, "berth.berth_no", true),
            field(2, "berth.basin.name", true),
            field(3, "note", true));
    private static final List<String> COLUMNS = List.of("id", "berth_no", "basin", "note");

    private final Choices choices = new Choices(FIELDS, COLUMNS, true);
    private final RowWriters writers = new RowWriters(FIELDS, new MaskKey(new byte[] {1}));

    private static ShapedField field(int column, String name, boolean nullable) {
        return new ShapedField(
                column,
                List.of(name.split("\\.")),
                FieldType.STRING,
                nullable,
                null,
                null,
                false,
                null,
                null,
                List.of(),
                null);
    }

    private String written(RowShape shape, @Nullable String... values) {
        RowWriter writer = writers.as(shape).forStrangers();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (JsonRowSink sink = new JsonRowSink(out)) {
            writer.write(new TextRow(values), sink);
        }
        return out.toString(StandardCharsets.UTF_8);
    }

    private List<@Nullable String> read(String fields) {
        ReadColumns columns = choices.choose(fields).columns();
        List<@Nullable String> names = new ArrayList<>();
        for (int i = 0; i < columns.count(); i++) {
            names.add(columns.name(i));
        }
        return names;
    }

    @Test
    void fieldsAndObjectsCanBeNamed() {
        assertThat(choices.names())
                .containsExactly("id", "berth", "berth.berth_no", "berth.basin", "berth.basin.name", "note");
        assertThat(new Choices(FIELDS, COLUMNS, false).names()).isEmpty();
    }

    @Test
    void onlyTheChosenAreWrittenInTheOrderOfTheChoice() {
        assertThat(written(choices.choose("note,id").nested(), "7", "A1", "Heron", "n"))
                .isEqualTo("{\"note\":\"n\",\"id\":\"7\"}");
        assertThat(written(choices.choose("berth").nested(), "7", "A1", "Heron", "n"))
                .isEqualTo("{\"berth\":{\"berth_no\":\"A1\",\"basin\":{\"name\":\"Heron\"}}}");
        assertThat(written(choices.choose("berth.basin,id").flat(), "7", "A1", "Heron", "n"))
                .isEqualTo("{\"berth.basin.name\":\"Heron\",\"id\":\"7\"}");
    }

    /** An object is there when any of its fields is, chosen or not. */
    @Test
    void whatIsNotChosenStillTellsWhetherItsObjectIsThere() {
        assertThat(written(choices.choose("berth.berth_no").nested(), "7", null, "Heron", null))
                .isEqualTo("{\"berth\":{\"berth_no\":null}}");
        assertThat(written(choices.choose("berth.berth_no").nested(), "7", null, null, null))
                .isEqualTo("{\"berth\":null}");
        assertThat(read("berth.berth_no")).containsExactly(null, "berth_no", "basin", null);
    }

    @Test
    void onlyTheirColumnsAreReadAndOneSetOfColumnsIsOneObject() {
        assertThat(read("note,id")).containsExactly("id", null, null, "note");
        assertThat(choices.choose("note,id").columns())
                .isSameAs(choices.choose("id,note").columns());
        assertThat(choices.choose(null).columns()).isSameAs(ReadColumns.ALL);
        assertThat(choices.choose(null).nested()).isSameAs(RowShape.WHOLE);
    }

    @Test
    void whatIsKeptIsBounded() {
        StringBuilder fields = new StringBuilder("id");
        for (int i = 0; i < 3 * Choices.MOST_KEPT; i++) {
            fields.append(",note");
            assertThat(written(choices.choose(fields.toString()).nested(), "7", null, null, "n"))
                    .isEqualTo("{\"id\":\"7\",\"note\":\"n\"}");
        }
        assertThat(choices.kept()).isLessThanOrEqualTo(Choices.MOST_KEPT);
    }
}
