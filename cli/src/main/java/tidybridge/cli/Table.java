package tidybridge.cli;

import com.github.freva.asciitable.AsciiTable;
import com.github.freva.asciitable.Column;
import com.github.freva.asciitable.HorizontalAlign;
import com.github.freva.asciitable.OverflowBehaviour;
import java.util.ArrayList;
import java.util.List;

/** A table for a terminal: a head, a rule, and columns that end where their longest value does. */
final class Table {

    private static final int WIDEST_COLUMN = 60;

    /** Only the rule below the head and the gaps between columns are drawn. */
    private static final Character[] LINES = {
        null, null, null, null, null, ' ', null, null, '─', '─', null, null, ' ', null, null, null, null, null, null,
        ' ', null, null, null, null, null, null, null, null, null
    };

    private Table() {}

    /**
     * Draws the table.
     *
     * @param numeric which columns are set flush right
     */
    static String draw(List<String> head, List<Boolean> numeric, List<List<String>> rows) {
        List<Column> columns = new ArrayList<>();
        for (int i = 0; i < head.size(); i++) {
            HorizontalAlign align = numeric.get(i) ? HorizontalAlign.RIGHT : HorizontalAlign.LEFT;
            columns.add(new Column()
                    .header(head.get(i))
                    .headerAlign(align)
                    .dataAlign(align)
                    .maxWidth(WIDEST_COLUMN, OverflowBehaviour.ELLIPSIS_RIGHT));
        }
        String[][] data = rows.stream().map(row -> row.toArray(String[]::new)).toArray(String[][]::new);
        String drawn = AsciiTable.builder()
                .border(LINES)
                .data(columns.toArray(Column[]::new), data)
                .asString();
        StringBuilder text = new StringBuilder();
        drawn.lines()
                .forEach(line -> text.append(line.substring(1).stripTrailing()).append(System.lineSeparator()));
        return text.toString();
    }
}
