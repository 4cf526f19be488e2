package tidybridge.cli;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Reads the values of single rows that came as text. */
final class RowText {

    private RowText() {}

    /** The cells of a line of comma-separated values (RFC 4180). */
    static List<String> cells(byte[] line) {
        String text = new String(line, StandardCharsets.UTF_8);
        List<String> cells = new ArrayList<>();
        StringBuilder cell = new StringBuilder();
        boolean quoted = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '"') {
                if (quoted && i + 1 < text.length() && text.charAt(i + 1) == '"') {
                    cell.append(c);
                    i++;
                } else {
                    quoted = !quoted;
                }
            } else if (!quoted && (c == ',' || c == '\r' || c == '\n')) {
                if (c != '\n') {
                    cells.add(cell.toString());
                    cell.setLength(0);
                }
            } else {
                cell.append(c);
            }
        }
        return cells;
    }

    /**
     * A row's key as the parameter {@code from} takes it.
     *
     * @param header the names of the columns of a table; null for a line of JSON
     * @param key names of fields
     * @return null when one of them is not there
     */
    static @Nullable String key(@Nullable List<String> header, byte[] row, List<String> key) {
        StringBuilder text = new StringBuilder();
        List<String> cells = header == null ? List.of() : cells(row);
        JsonNode json = header == null ? Service.parse(new String(row, StandardCharsets.UTF_8)) : null;
        for (String name : key) {
            String value = json != null ? value(json, name) : cell(header, cells, name);
            if (value == null) {
                return null;
            }
            text.append(text.isEmpty() ? "" : ",")
                    .append(value.replace("\\", "\\\\").replace(",", "\\,"));
        }
        return text.toString();
    }

    private static @Nullable String value(JsonNode row, String name) {
        JsonNode value = row;
        for (String part : name.split("\\.")) {
            value = value.path(part);
        }
        return value.isMissingNode() || value.isNull() ? null : value.asString();
    }

    /** A text has an apostrophe before it that a spreadsheet would have run. */
    private static @Nullable String cell(@Nullable List<String> header, List<String> cells, String name) {
        int index = header == null ? -1 : header.indexOf(name);
        if (index < 0 || index >= cells.size() || cells.get(index).isEmpty()) {
            return null;
        }
        String cell = cells.get(index);
        return cell.startsWith("'") ? cell.substring(1) : cell;
    }
}
