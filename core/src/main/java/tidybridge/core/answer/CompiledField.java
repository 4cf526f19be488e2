package tidybridge.core.answer;

import java.math.BigInteger;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.Mask;

/** A field of a row, made ready to be written: what it is called, and how its column becomes a value. Immutable and thread-safe. */
sealed interface CompiledField {

    FieldName name();

    void write(Row row, RowSink sink);

    /**
     * Fields below one name.
     *
     * @param nullTogether the columns that make the object null when all of them are; empty when one of them never is
     */
    record Nested(FieldName name, CompiledField[] fields, int[] nullTogether) implements CompiledField {

        @Override
        public void write(Row row, RowSink sink) {
            if (isNull(row)) {
                sink.nothing();
                return;
            }
            sink.beginObject();
            for (CompiledField field : fields) {
                sink.name(field.name());
                field.write(row, sink);
            }
            sink.endObject();
        }

        /** An outer join that found nothing gives an object of nulls, which is no object. */
        private boolean isNull(Row row) {
            for (int column : nullTogether) {
                if (row.text(column) != null) {
                    return false;
                }
            }
            return nullTogether.length > 0;
        }
    }

    /** A value that only some callers may see; what cannot be shown in part is not shown at all. */
    record Masked(FieldName name, int column, boolean isText, Mask mask, MaskKey key) implements CompiledField {

        @Override
        public void write(Row row, RowSink sink) {
            String value = isText ? row.text(column) : null;
            if (value == null) {
                sink.nothing();
            } else {
                sink.text(key.mask(mask, value));
            }
        }
    }

    /** A value as the database writes it, whatever its type. */
    record AsText(FieldName name, int column) implements CompiledField {

        @Override
        public void write(Row row, RowSink sink) {
            String value = row.text(column);
            if (value == null) {
                sink.nothing();
            } else {
                sink.text(value);
            }
        }
    }

    /** A value as its type is written. */
    record Plain(FieldName name, int column, FieldType type) implements CompiledField {

        @Override
        public void write(Row row, RowSink sink) {
            switch (type) {
                case INTEGER, BOOLEAN -> {
                    long value = row.integer(column);
                    if (row.wasNull()) {
                        sink.nothing();
                    } else if (type == FieldType.BOOLEAN) {
                        sink.truth(value != 0);
                    } else {
                        sink.integer(value);
                    }
                }
                case FLOAT -> {
                    double value = row.real(column);
                    if (row.wasNull()) {
                        sink.nothing();
                    } else {
                        sink.real(value);
                    }
                }
                case BINARY, BITS, GEOMETRY -> bytes(row.bytes(column), sink);
                case DECIMAL, STRING, JSON -> text(row.characters(column), sink);
                case DATE, TIME, LOCAL_DATE_TIME, MOMENT -> text(row.text(column), sink);
            }
        }

        private void bytes(byte @Nullable [] value, RowSink sink) {
            if (value == null) {
                sink.nothing();
                return;
            }
            switch (type) {
                case BITS -> sink.whole(new BigInteger(1, value));
                case GEOMETRY -> sink.geometry(value);
                default -> sink.bytes(value);
            }
        }

        private void text(@Nullable String value, RowSink sink) {
            if (value == null) {
                sink.nothing();
                return;
            }
            switch (type) {
                case DECIMAL -> sink.decimal(value);
                case JSON -> sink.json(value);
                case DATE -> sink.date(value);
                case LOCAL_DATE_TIME -> sink.localDateTime(value.replace(' ', 'T'));
                case MOMENT -> sink.text(value.replace(' ', 'T').concat("Z"));
                default -> sink.text(value);
            }
        }
    }
}
