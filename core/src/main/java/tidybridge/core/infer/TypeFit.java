package tidybridge.core.infer;

import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.ParameterType;

/** Which types of parameters can be compared with which columns without converting every row. */
public final class TypeFit {

    private TypeFit() {}

    public static boolean fits(ParameterType parameter, FieldType column) {
        return switch (parameter) {
            case INTEGER, NUMBER -> column.isNumber() || column == FieldType.BOOLEAN;
            case BOOLEAN -> column == FieldType.BOOLEAN || column == FieldType.INTEGER || column == FieldType.BITS;
            case STRING, EMAIL -> column == FieldType.STRING || column == FieldType.JSON || column == FieldType.BINARY;
            case UUID -> column == FieldType.STRING || column == FieldType.BINARY;
            case DATE -> column == FieldType.DATE || column == FieldType.LOCAL_DATE_TIME || column == FieldType.MOMENT;
            case DATE_TIME -> column == FieldType.MOMENT;
            case DATE_TIME_LOCAL -> column == FieldType.DATE || column == FieldType.LOCAL_DATE_TIME;
            case TIME -> column == FieldType.TIME;
            case BYTE -> column == FieldType.BINARY;
            case OBJECT, ARRAY -> column == FieldType.JSON || column == FieldType.STRING;
        };
    }

    /** The type a parameter needs to meet a column. */
    public static ParameterType of(FieldType column, String base) {
        return switch (column) {
            case INTEGER, BITS -> ParameterType.INTEGER;
            case DECIMAL -> base.equals("bigint") ? ParameterType.INTEGER : ParameterType.NUMBER;
            case FLOAT -> ParameterType.NUMBER;
            case BOOLEAN -> ParameterType.BOOLEAN;
            case STRING -> base.equals("uuid") ? ParameterType.UUID : ParameterType.STRING;
            case DATE -> ParameterType.DATE;
            case TIME -> ParameterType.TIME;
            case LOCAL_DATE_TIME -> ParameterType.DATE_TIME_LOCAL;
            case MOMENT -> ParameterType.DATE_TIME;
            case JSON -> ParameterType.OBJECT;
            case BINARY -> ParameterType.BYTE;
            case GEOMETRY -> ParameterType.STRING;
        };
    }
}
