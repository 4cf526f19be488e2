package tidybridge.service.desk;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.document.DocumentedApi;
import tidybridge.core.document.UnreadableDocument;
import tidybridge.core.drafting.DraftChoices;
import tidybridge.core.drafting.FirstText;
import tidybridge.core.problem.ProblemKind;

/** How documents travel that first texts are made from, and what their operations are taken to mean. */
final class DocumentViews {

    private static final String SAMPLE = "sample";
    private static final String OPENAPI = "openapi";

    private DocumentViews() {}

    /**
     * A document.
     *
     * @param kind {@code openapi}, or {@code sample} for rows in JSON
     * @param path of a sample: where its rows are answered
     * @param matches what its operations mean; what is not there is proposed
     */
    record DocumentView(
            @Nullable String kind,
            @Nullable String text,
            @Nullable String path,
            @Nullable List<@Nullable MatchView> matches) {}

    /**
     * What an operation means.
     *
     * @param table empty for none
     * @param columns by the names of fields and inputs; proposed without
     */
    record MatchView(
            @Nullable String operation,
            @Nullable String table,
            @Nullable Map<String, @Nullable String> columns) {}

    /**
     * What was made of a document.
     *
     * @param columns of each table that an operation is about: those that a match can name
     */
    record ReadDocumentView(String title, List<OperationView> operations, Map<String, List<String>> columns) {}

    record OperationView(String operation, String about, String table, List<NameView> names) {}

    /**
     * A name of an operation.
     *
     * @param column what it means; empty for nothing
     */
    record NameView(String name, String type, boolean shown, boolean sent, String column) {}

    static DraftChoices.@Nullable DocumentChoice choice(@Nullable DocumentView view) {
        String text = view == null ? null : view.text();
        String kind = view == null ? null : view.kind();
        if (view == null) {
            return null;
        }
        String path = view.path() == null ? "" : view.path();
        boolean sample = SAMPLE.equals(kind);
        if (text == null || text.isBlank() || !(sample || OPENAPI.equals(kind))) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "'document' needs its 'text', and its 'kind': openapi or sample.");
        }
        if (sample && !path.matches("(/[A-Za-z0-9._~-]+)+")) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "'path' of a sample says where its rows are answered, as in /berths: letters, digits, hyphens.");
        }
        try {
            DocumentedApi api = sample ? DocumentedApi.ofSample(text, path) : DocumentedApi.ofOpenApi(text);
            return new DraftChoices.DocumentChoice(api, sample, matches(view.matches()));
        } catch (UnreadableDocument e) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, e.words());
        }
    }

    private static Map<String, DraftChoices.Match> matches(@Nullable List<@Nullable MatchView> views) {
        Map<String, DraftChoices.Match> matches = new LinkedHashMap<>();
        for (@Nullable MatchView view : views == null ? List.<@Nullable MatchView>of() : views) {
            String operation = view == null ? null : view.operation();
            if (view == null || operation == null) {
                throw new DeskRefusal(ProblemKind.BAD_INPUT, "Each of 'matches' needs its 'operation', GET /berths.");
            }
            Map<String, @Nullable String> given = view.columns();
            Map<String, String> columns = new LinkedHashMap<>();
            if (given != null) {
                given.forEach((name, column) -> columns.put(name, column == null ? "" : column));
            }
            matches.put(
                    operation,
                    new DraftChoices.Match(view.table() == null ? "" : view.table(), given == null ? null : columns));
        }
        return matches;
    }

    /** Null when the text was not made from a document. */
    static @Nullable ReadDocumentView view(DraftChoices.@Nullable DocumentChoice choice, FirstText first) {
        return choice == null
                ? null
                : new ReadDocumentView(
                        choice.api().title(),
                        first.matched().operations().stream()
                                .map(DocumentViews::operation)
                                .toList(),
                        first.matched().columns());
    }

    private static OperationView operation(FirstText.Matched matched) {
        return new OperationView(
                matched.label(),
                matched.about(),
                matched.table(),
                matched.names().stream()
                        .map(name -> new NameView(name.name(), name.type(), name.shown(), name.sent(), name.column()))
                        .toList());
    }
}
