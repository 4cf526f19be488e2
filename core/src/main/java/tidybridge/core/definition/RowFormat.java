package tidybridge.core.definition;

import java.util.List;
import java.util.Locale;

/** A notation in which rows are answered. */
public enum RowFormat {
    JSON("application/json", List.of(), "JSON"),
    /** One JSON object a line. */
    NDJSON("application/x-ndjson", List.of("application/ndjson", "application/jsonl"), "one JSON object a line"),
    /** RFC 4180. */
    CSV("text/csv", List.of(), "comma-separated values (RFC 4180)"),
    /** Office Open XML (ECMA-376). */
    XLSX("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", List.of(), "a spreadsheet");

    private final String mediaType;
    private final List<String> aliases;
    private final String about;

    RowFormat(String mediaType, List<String> aliases, String about) {
        this.mediaType = mediaType;
        this.aliases = aliases;
        this.about = about;
    }

    /** What it is called in addresses, definitions and names of files. */
    public String label() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** Without parameters. */
    public String mediaType() {
        return mediaType;
    }

    /** Other media types that callers use for the same. */
    public List<String> aliases() {
        return aliases;
    }

    /** A few words for the reference. */
    public String about() {
        return about;
    }

    /** True for what writes rows as cells of a table, and has no place for anything beside them. */
    public boolean isTable() {
        return this == CSV || this == XLSX;
    }
}
