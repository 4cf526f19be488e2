package tidybridge.core.answer;

import java.util.Arrays;
import java.util.List;

/** Writes the rows of one operation for callers with the same privileges; compiled once. Immutable and thread-safe. */
public final class RowWriter {

    private final CompiledField[] fields;
    private final List<String> names;

    RowWriter(CompiledField[] fields) {
        this.fields = fields.clone();
        this.names = Arrays.stream(fields).map(field -> field.name().text()).toList();
    }

    /** What the row's own fields are called, in order. */
    public List<String> names() {
        return names;
    }

    /** Writes the row as one object. */
    public void write(Row row, RowSink sink) {
        sink.beginObject();
        writeMembers(row, sink);
        sink.endObject();
    }

    /** Writes the row's members into an object that was begun. */
    public void writeMembers(Row row, RowSink sink) {
        for (CompiledField field : fields) {
            sink.name(field.name());
            field.write(row, sink);
        }
    }

    /** Writes the first field's value alone, whatever objects its name would nest it in. */
    public void writeValue(Row row, RowSink sink) {
        CompiledField field = fields[0];
        while (field instanceof CompiledField.Nested nested) {
            field = nested.fields()[0];
        }
        field.write(row, sink);
    }
}
