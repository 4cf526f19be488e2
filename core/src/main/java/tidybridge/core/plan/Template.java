package tidybridge.core.plan;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.IntFunction;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.Row;
import tidybridge.core.catalog.FieldType;

/** A text with {@code {names}} that are filled from a row or from the values of a request. Immutable and thread-safe. */
public final class Template {

    private static final Pattern NAME = Pattern.compile("\\{([A-Za-z_][A-Za-z0-9_]*(?:\\.[A-Za-z_][A-Za-z0-9_]*)?)}");

    private final List<Part> parts;

    /** A literal text, or what fills its place: a column of the row, or a value of the request, and as what it is shown. */
    private record Part(@Nullable String literal, int column, int value, FieldType shownAs) {

        static Part literal(String text) {
            return new Part(text, -1, -1, FieldType.STRING);
        }
    }

    private Template(List<Part> parts) {
        this.parts = List.copyOf(parts);
    }

    /** The names in a text. */
    public static List<String> names(String text) {
        return NAME.matcher(text).results().map(found -> found.group(1)).toList();
    }

    /** Compiles a text that people read: values stand as the database writes them, and an unknown name as it is. */
    public static Template ofMessage(String text, List<String> columns) {
        return of(text, columns, Map.of(), name -> FieldType.STRING);
    }

    /**
     * Compiles an address: a value stands as callers see it in an answer and send it back.
     *
     * @param columns the row's, in order
     * @param values indexes of values by name, used where no column has the name
     * @param types of columns and values, by their names
     */
    public static Template ofAddress(
            String text, List<String> columns, Map<String, Integer> values, Function<String, FieldType> types) {
        return of(text, columns, values, types);
    }

    private static Template of(
            String text, List<String> columns, Map<String, Integer> values, Function<String, FieldType> types) {
        List<Part> parts = new ArrayList<>();
        Matcher matcher = NAME.matcher(text);
        int end = 0;
        while (matcher.find()) {
            String name = matcher.group(1);
            int column = columns.indexOf(name);
            Integer value = values.get(name);
            if (column >= 0 || value != null) {
                parts.add(Part.literal(text.substring(end, matcher.start())));
                parts.add(new Part(null, column, value == null ? -1 : value, types.apply(name)));
                end = matcher.end();
            }
        }
        parts.add(Part.literal(text.substring(end)));
        return new Template(parts);
    }

    /** The text with {@code {}} for each of its names. */
    public String shape() {
        return parts.stream()
                .map(part -> part.literal() == null ? "{}" : part.literal())
                .collect(Collectors.joining());
    }

    private static String text(Object value, FieldType shownAs) {
        String text = value instanceof BigDecimal number ? number.toPlainString() : value.toString();
        return switch (shownAs) {
            case BOOLEAN -> text.equals("1") ? "true" : text.equals("0") ? "false" : text;
            case LOCAL_DATE_TIME -> text.replace(' ', 'T');
            case MOMENT -> text.replace(' ', 'T').concat("Z");
            case INTEGER, DECIMAL, FLOAT, BITS, STRING, DATE, TIME, JSON, BINARY, GEOMETRY -> text;
        };
    }

    /**
     * Fills the text; what is null becomes nothing.
     *
     * @param row null when there is none, which leaves its columns empty
     * @param encode applied to what is filled in
     */
    public String fill(@Nullable Row row, @Nullable Object[] values, UnaryOperator<String> encode) {
        IntFunction<@Nullable String> column = index -> row == null ? null : row.text(index);
        StringBuilder text = new StringBuilder();
        for (Part part : parts) {
            if (part.literal() != null) {
                text.append(part.literal());
                continue;
            }
            Object value = part.column() >= 0 ? column.apply(part.column()) : values[part.value()];
            text.append(value == null ? "" : encode.apply(text(value, part.shownAs())));
        }
        return text.toString();
    }
}
