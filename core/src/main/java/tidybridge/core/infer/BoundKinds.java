package tidybridge.core.infer;

import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.sql.ValueKind;

/** As what values are bound: those of parameters by their declared types, those of earlier steps by the types of their columns. */
public final class BoundKinds {

    private BoundKinds() {}

    /** A list is meant item by item. */
    public static ValueKind of(ParameterDefinition parameter) {
        ListRule list = parameter.list();
        return of(list == null ? parameter.type() : list.type());
    }

    public static ValueKind of(ParameterType type) {
        return switch (type) {
            case INTEGER -> ValueKind.WHOLE_NUMBER;
            case NUMBER -> ValueKind.EXACT_NUMBER;
            case BOOLEAN -> ValueKind.TRUTH;
            case DATE -> ValueKind.DATE;
            case TIME -> ValueKind.TIME;
            case DATE_TIME, DATE_TIME_LOCAL -> ValueKind.DATE_TIME;
            case BYTE -> ValueKind.BYTES;
            case STRING, UUID, EMAIL, ARRAY, OBJECT -> ValueKind.TEXT;
        };
    }

    /** Of a column of an earlier step. */
    public static ValueKind of(FieldType type) {
        return switch (type) {
            case INTEGER, BOOLEAN -> ValueKind.WHOLE_NUMBER;
            case DECIMAL -> ValueKind.EXACT_NUMBER;
            case FLOAT -> ValueKind.FLOATING_NUMBER;
            case BINARY, BITS, GEOMETRY -> ValueKind.BYTES;
            case STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, JSON -> ValueKind.TEXT;
        };
    }
}
