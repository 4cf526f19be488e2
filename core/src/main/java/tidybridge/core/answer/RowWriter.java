package tidybridge.core.answer;

import java.math.BigInteger;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.io.SerializedString;

/** Writes the rows of one operation as JSON objects; compiled once, allocates only what values need. Thread-safe. */
public final class RowWriter {

    private final SerializedString[] names;
    private final FieldType[] types;

    public RowWriter(List<Field> fields) {
        names = fields.stream().map(field -> new SerializedString(field.name())).toArray(SerializedString[]::new);
        types = fields.stream().map(Field::type).toArray(FieldType[]::new);
    }

    /** Writes the row as one object. */
    public void write(Row row, JsonGenerator json) {
        json.writeStartObject();
        for (int i = 0; i < names.length; i++) {
            json.writeName(names[i]);
            writeValue(row, i, json);
        }
        json.writeEndObject();
    }

    /** Writes one field's value alone. */
    public void writeValue(Row row, int field, JsonGenerator json) {
        switch (types[field]) {
            case INTEGER -> {
                long value = row.integer(field);
                if (row.wasNull()) {
                    json.writeNull();
                } else {
                    json.writeNumber(value);
                }
            }
            case FLOAT -> {
                double value = row.real(field);
                if (row.wasNull()) {
                    json.writeNull();
                } else {
                    json.writeNumber(value);
                }
            }
            case BOOLEAN -> {
                long value = row.integer(field);
                if (row.wasNull()) {
                    json.writeNull();
                } else {
                    json.writeBoolean(value != 0);
                }
            }
            case BINARY -> {
                byte[] value = row.bytes(field);
                if (value == null) {
                    json.writeNull();
                } else {
                    json.writeBinary(value);
                }
            }
            case BITS -> {
                byte[] value = row.bytes(field);
                if (value == null) {
                    json.writeNull();
                } else {
                    json.writeNumber(new BigInteger(1, value));
                }
            }
            case GEOMETRY -> {
                byte[] value = row.bytes(field);
                if (value == null) {
                    json.writeNull();
                } else {
                    GeoJson.write(value, json);
                }
            }
            case DECIMAL, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, JSON ->
                writeText(types[field], row.text(field), json);
        }
    }

    private static void writeText(FieldType type, @Nullable String value, JsonGenerator json) {
        if (value == null) {
            json.writeNull();
            return;
        }
        switch (type) {
            case DECIMAL -> json.writeNumber(value);
            case JSON -> json.writeRawValue(value);
            case LOCAL_DATE_TIME -> json.writeString(value.replace(' ', 'T'));
            case MOMENT -> json.writeString(value.replace(' ', 'T').concat("Z"));
            case STRING, DATE, TIME, INTEGER, FLOAT, BOOLEAN, BINARY, BITS, GEOMETRY -> json.writeString(value);
        }
    }
}
