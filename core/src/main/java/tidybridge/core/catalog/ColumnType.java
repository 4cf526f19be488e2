package tidybridge.core.catalog;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * The type of a column or of a routine's parameter.
 *
 * @param text as the database writes it, {@code decimal(5,2) unsigned}
 * @param base its first word in lower case, {@code decimal}; {@code json} for a text that a check keeps valid JSON
 * @param length in characters or bytes; null for types without
 * @param precision decimal digits in all; null for types without
 * @param scale digits behind the point; null for types without
 * @param collation null for what is no text
 * @param members of an enum or a set; empty for other types
 */
public record ColumnType(
        String text,
        String base,
        boolean unsigned,
        @Nullable Long length,
        @Nullable Integer precision,
        @Nullable Integer scale,
        @Nullable String collation,
        List<String> members) {

    public ColumnType {
        members = List.copyOf(members);
    }

    /** What a value of this type is in an answer. */
    public FieldType fieldType() {
        return switch (base) {
            case "tinyint" -> text.startsWith("tinyint(1)") ? FieldType.BOOLEAN : FieldType.INTEGER;
            case "smallint", "mediumint", "int", "year" -> FieldType.INTEGER;
            case "bigint" -> unsigned ? FieldType.DECIMAL : FieldType.INTEGER;
            case "bit" -> text.equals("bit(1)") ? FieldType.BOOLEAN : FieldType.BITS;
            case "decimal" -> FieldType.DECIMAL;
            case "float", "double" -> FieldType.FLOAT;
            case "date" -> FieldType.DATE;
            case "time" -> FieldType.TIME;
            case "datetime" -> FieldType.LOCAL_DATE_TIME;
            case "timestamp" -> FieldType.MOMENT;
            case "json" -> FieldType.JSON;
            case "binary", "varbinary", "tinyblob", "blob", "mediumblob", "longblob" -> FieldType.BINARY;
            case "point",
                    "linestring",
                    "polygon",
                    "multipoint",
                    "multilinestring",
                    "multipolygon",
                    "geometry",
                    "geometrycollection" -> FieldType.GEOMETRY;
            default -> FieldType.STRING;
        };
    }

    /** Reads the members of {@code enum('a','b')}; empty for other types. */
    public static List<String> members(String text) {
        String lower = text.toLowerCase(Locale.ROOT);
        if (!lower.startsWith("enum(") && !lower.startsWith("set(")) {
            return List.of();
        }
        List<String> members = new java.util.ArrayList<>();
        StringBuilder member = new StringBuilder();
        boolean inside = false;
        for (int i = text.indexOf('(') + 1; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean doubled = inside && c == '\'' && i + 1 < text.length() && text.charAt(i + 1) == '\'';
            if (doubled) {
                member.append(c);
                i++;
            } else if (c == '\'') {
                if (inside) {
                    members.add(member.toString());
                    member.setLength(0);
                }
                inside = !inside;
            } else if (inside) {
                member.append(c);
            }
        }
        return members;
    }
}
