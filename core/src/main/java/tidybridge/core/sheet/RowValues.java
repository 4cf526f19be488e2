package tidybridge.core.sheet;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.ValueReader;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.catalog.Relation;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.infer.TypeFit;

/** Makes of a row's cells the values of a table's columns, and refuses what the database would round, cut or guess. Immutable and thread-safe. */
public final class RowValues {

    private final List<Cell> cells;

    private RowValues(List<Cell> cells) {
        this.cells = List.copyOf(cells);
    }

    private record Cell(Column column, ValueReader reader) {}

    /** A row that a table cannot take. */
    public static final class Unfit extends Exception {
        Unfit(String words) {
            super(words, null, false, false);
        }

        /** Why not; never a value. */
        public String words() {
            return String.valueOf(getMessage());
        }
    }

    /**
     * Prepares it for a table: each heading must be one of its columns, and no column that needs a value may be absent.
     *
     * @throws UnreadableSheet when the sheet is not one of this table
     */
    public static RowValues of(Relation table, List<String> headings) throws UnreadableSheet {
        List<String> names = SheetLook.names(headings);
        List<Cell> cells = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            String heading = headings.get(i).strip();
            String name = names.get(i);
            Column column = table.column(heading)
                    .or(() -> table.column(name))
                    .orElseThrow(() -> new UnreadableSheet("The table '" + table.name() + "' has no column for '"
                            + (heading.length() <= 60 ? heading : heading.substring(0, 60)) + "'."));
            if (column.generated() || column.type().fieldType() == FieldType.GEOMETRY) {
                throw new UnreadableSheet(
                        "The column '" + column.name() + "' takes no values from a sheet; leave it out.");
            }
            ParameterType type =
                    TypeFit.of(column.type().fieldType(), column.type().base());
            cells.add(new Cell(column, new ValueReader(type, Constraints.NONE)));
        }
        for (Column column : table.columns()) {
            boolean needed =
                    !column.nullable() && column.defaultText() == null && !column.generated() && !column.numbered();
            if (needed && cells.stream().noneMatch(cell -> cell.column().equals(column))) {
                throw new UnreadableSheet("The table '" + table.name() + "' needs a value for '" + column.name()
                        + "', and the sheet has no such column.");
            }
        }
        return new RowValues(cells);
    }

    /** The columns that are filled, in the order of the sheet. */
    public List<String> columns() {
        return cells.stream().map(cell -> cell.column().name()).toList();
    }

    /**
     * Reads a row.
     *
     * @throws Unfit when a cell is no value of its column
     */
    public @Nullable Object[] of(SheetRows.Row row) throws Unfit {
        if (row.trouble() != null) {
            throw new Unfit(row.trouble());
        }
        if (row.cells().size() != cells.size()) {
            throw new Unfit(
                    "It has " + row.cells().size() + " cells, and the first line names " + cells.size() + " columns.");
        }
        @Nullable Object[] values = new @Nullable Object[cells.size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = value(cells.get(i), row.cells().get(i));
        }
        return values;
    }

    private static @Nullable Object value(Cell cell, String text) throws Unfit {
        Column column = cell.column();
        ColumnType type = column.type();
        if (text.isEmpty()) {
            if (!column.nullable() && !column.numbered()) {
                throw new Unfit("The column '" + column.name() + "' must have a value.");
            }
            return null;
        }
        try {
            return switch (type.fieldType()) {
                case STRING, JSON -> text(column, text);
                case BOOLEAN -> flag(cell, text.strip());
                case DECIMAL -> exact(column, cell.reader().read(text.strip()));
                case LOCAL_DATE_TIME -> cell.reader().read(local(text.strip()));
                case INTEGER, BITS, FLOAT, DATE, TIME, MOMENT, BINARY, GEOMETRY ->
                    cell.reader().read(text.strip());
            };
        } catch (ValueReader.Unfit e) {
            throw new Unfit("The column '" + column.name() + "' " + e.clause() + ".");
        }
    }

    private static Object flag(Cell cell, String text) throws ValueReader.Unfit {
        return switch (text) {
            case "0" -> false;
            case "1" -> true;
            default -> cell.reader().read(text.toLowerCase(Locale.ROOT));
        };
    }

    /** With seconds, and the letter between day and time, as ISO 8601 wants them. */
    static String local(String text) {
        String time = text.replace(' ', 'T');
        return time.length() == "2031-05-01T09:30".length() ? time + ":00" : time;
    }

    private static String text(Column column, String text) throws Unfit {
        Long most = column.type().length();
        boolean words = column.type().members().isEmpty() && column.type().fieldType() == FieldType.STRING;
        if (words && most != null && text.codePointCount(0, text.length()) > most) {
            throw new Unfit("The column '" + column.name() + "' takes " + most + " characters, and this has more.");
        }
        return text;
    }

    private static Object exact(Column column, Object value) throws Unfit {
        Integer scale = column.type().scale();
        if (value instanceof BigDecimal number
                && scale != null
                && number.stripTrailingZeros().scale() > scale) {
            throw new Unfit("The column '" + column.name() + "' keeps " + scale
                    + " digits behind the point, and this has more: it would be rounded.");
        }
        return value;
    }
}
