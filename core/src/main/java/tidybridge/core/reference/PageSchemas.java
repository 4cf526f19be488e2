package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;

import java.util.List;
import java.util.Map;

/** Describes what is said of a page behind its rows. */
final class PageSchemas {

    private PageSchemas() {}

    /** What stands behind the rows of a page. */
    static Map<String, Object> page() {
        return map(
                "type", "object",
                "required", List.of("limit"),
                "properties",
                        map(
                                "limit",
                                        map(
                                                "type",
                                                "integer",
                                                "format",
                                                "int64",
                                                "description",
                                                "The size that was asked for."),
                                "after",
                                        map(
                                                "type", "string",
                                                "description",
                                                        "Continues the collection, as 'after' of the next call; absent on the last page."),
                                "next",
                                        map(
                                                "type", "string",
                                                "format", "uri-reference",
                                                "description", "The address of the next page; absent on the last one."),
                                "before",
                                        map(
                                                "type", "string",
                                                "description",
                                                        "Goes back, as 'before' of the next call; absent where nothing is before the page, and where nobody may go back."),
                                "prev",
                                        map(
                                                "type", "string",
                                                "format", "uri-reference",
                                                "description",
                                                        "The address of the page before it, absent as 'before' is."),
                                "last",
                                        map(
                                                "type", "boolean",
                                                "const", true,
                                                "description", "Says that no row follows; absent on every other page."),
                                "rows",
                                        map(
                                                "type",
                                                "integer",
                                                "format",
                                                "int64",
                                                "description",
                                                "How many rows the answer has, where all were asked for."),
                                "total",
                                        map(
                                                "type",
                                                "integer",
                                                "format",
                                                "int64",
                                                "description",
                                                "How many rows all pages have, where that was asked for."),
                                "estimate", estimate()));
    }

    private static Map<String, Object> estimate() {
        return map(
                "type",
                "object",
                "description",
                "How many rows all pages have as the database expects, where that was asked for.",
                "required",
                List.of("rows", "least"),
                "properties",
                map(
                        "rows", map("type", "integer", "format", "int64"),
                        "least",
                                map(
                                        "type",
                                        "integer",
                                        "format",
                                        "int64",
                                        "description",
                                        "The number is rarely below it."),
                        "most",
                                map(
                                        "type", "integer",
                                        "format", "int64",
                                        "description", "The number is rarely above it; absent for a guess.")));
    }
}
