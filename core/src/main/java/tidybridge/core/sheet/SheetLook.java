package tidybridge.core.sheet;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import tidybridge.core.sql.Dialect;
import tidybridge.core.text.PlainName;

/**
 * What a sheet holds, told from all of its rows.
 *
 * @param rows how many have as many cells as there are columns
 * @param key the column that tells the rows apart; empty for none, and then they are numbered
 * @param bad the first rows that cannot be read
 * @param moreBad how many there are beside them
 */
public record SheetLook(List<SheetColumn> columns, long rows, Optional<String> key, List<BadRow> bad, long moreBad) {

    /** The most bad rows that are told of. */
    public static final int MOST_BAD = 100;

    /** The column that numbers rows which nothing else tells apart. */
    public static final String NUMBER = "row_no";

    /** Each may take eight bytes for each row. */
    private static final int KEYED = 2;

    private static final Pattern KEY_NAME = Pattern.compile("(.*_)?(id|no|key|code|number|uuid)");
    private static final Pattern TYPE = Pattern.compile(
            "(?i)tinyint|smallint|int( unsigned)?|bigint( unsigned)?|decimal\\(\\d{1,2},\\d{1,2}\\)|double|float|boolean"
                    + "|(var)?char\\(\\d{1,4}\\)|text|mediumtext|longtext|date|time(\\([0-6]\\))?|datetime(\\([0-6]\\))?|timestamp(\\([0-6]\\))?|uuid|json|year");

    /**
     * One column.
     *
     * @param name in the table
     * @param heading in the sheet
     * @param type in words of the database
     * @param notes what a person should know of it
     */
    public record SheetColumn(
            String name, String heading, String type, boolean nullable, List<String> examples, List<String> notes) {
        public SheetColumn {
            examples = List.copyOf(examples);
            notes = List.copyOf(notes);
        }

        SheetColumn typed(String other) {
            return new SheetColumn(name, heading, other, nullable, examples, notes);
        }
    }

    /** A row that cannot be taken, and why. */
    public record BadRow(long line, String reason) {}

    public SheetLook {
        columns = List.copyOf(columns);
        bad = List.copyOf(bad);
    }

    /**
     * Reads a sheet to its end.
     *
     * @throws UnreadableSheet when it cannot be read
     */
    public static SheetLook of(SheetRows sheet) throws UnreadableSheet, IOException {
        List<String> names = names(sheet.headings());
        List<ColumnGuess> guesses = new ArrayList<>();
        int keyed = 0;
        for (String name : names) {
            boolean asKey = keyed < KEYED && (KEY_NAME.matcher(name).matches() || guesses.isEmpty());
            keyed += asKey ? 1 : 0;
            guesses.add(new ColumnGuess(asKey));
        }
        BadRows bad = new BadRows();
        long rows = 0;
        for (SheetRows.Row row = sheet.next(); row != null; row = sheet.next()) {
            if (row.cells().size() != names.size()) {
                bad.add(
                        row.line(),
                        "It has " + cells(row.cells().size()) + ", and the first line names " + names.size()
                                + " columns.");
                continue;
            }
            if (row.trouble() != null) {
                bad.add(row.line(), row.trouble());
                continue;
            }
            rows++;
            for (int i = 0; i < guesses.size(); i++) {
                guesses.get(i).see(row.cells().get(i));
            }
        }
        if (rows == 0 && bad.isEmpty()) {
            throw new UnreadableSheet("The sheet has no row below the names of its columns.");
        }
        List<SheetColumn> columns = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            ColumnGuess guess = guesses.get(i);
            columns.add(new SheetColumn(
                    names.get(i),
                    sheet.headings().get(i).strip(),
                    guess.type(),
                    guess.isNullable(),
                    guess.examples(),
                    guess.notes()));
        }
        Optional<String> key = Optional.empty();
        for (int i = 0; i < names.size() && key.isEmpty(); i++) {
            key = guesses.get(i).isKey() ? Optional.of(names.get(i)) : key;
        }
        return new SheetLook(columns, rows, key, bad.first(), bad.more());
    }

    private static String cells(int number) {
        return number == 1 ? "1 cell" : number + " cells";
    }

    /** Names of columns in lower case, each once. */
    static List<String> names(List<String> headings) {
        List<String> names = new ArrayList<>();
        Set<String> taken = new HashSet<>(Set.of(NUMBER));
        for (String heading : headings) {
            String plain = PlainName.of(heading.replaceAll("(?<=[a-z])(?=[A-Z])", "_"), "_");
            String base = plain.isEmpty() ? "column" : Character.isDigit(plain.charAt(0)) ? "c_" + plain : plain;
            String name = base;
            for (int number = 2; !taken.add(name); number++) {
                name = base + "_" + number;
            }
            names.add(name);
        }
        return names;
    }

    /**
     * The same with other types.
     *
     * @param types by column
     * @throws UnreadableSheet when there is no such column, or no such type
     */
    public SheetLook with(Map<String, String> types) throws UnreadableSheet {
        for (Map.Entry<String, String> type : types.entrySet()) {
            if (columns.stream().noneMatch(column -> column.name().equals(type.getKey()))) {
                throw new UnreadableSheet("The sheet has no column '" + type.getKey() + "'.");
            }
            if (!TYPE.matcher(type.getValue()).matches()) {
                throw new UnreadableSheet("The type of '" + type.getKey()
                        + "' cannot be that; write one such as int, decimal(8,2), varchar(60), date or datetime.");
            }
        }
        return new SheetLook(
                columns.stream()
                        .map(column -> column.typed(types.getOrDefault(column.name(), column.type())))
                        .toList(),
                rows,
                key,
                bad,
                moreBad);
    }

    /** The statement that makes a table for it. */
    public String createTable(String table, Dialect dialect) {
        List<String> lines = new ArrayList<>();
        if (key.isEmpty()) {
            lines.add(NUMBER + " int unsigned not null auto_increment primary key");
        }
        for (SheetColumn column : columns) {
            boolean isKey = key.isPresent() && key.get().equals(column.name());
            lines.add(dialect.named(column.name()) + " " + column.type()
                    + (column.nullable() ? " null" : " not null")
                    + (isKey ? " primary key" : "")
                    + (column.heading().isEmpty() || column.heading().equals(column.name())
                            ? ""
                            : " comment '" + comment(column.heading()) + "'"));
        }
        return "create table " + dialect.named(table) + " (\n  " + String.join(",\n  ", lines) + "\n)\n";
    }

    private static String comment(String heading) {
        String line =
                heading.replaceAll("\\p{Cntrl}+", " ").replace("\\", "\\\\").replace("'", "''");
        return line.length() <= 200 ? line : line.substring(0, 200).replaceAll("['\\\\]+$", "");
    }
}
