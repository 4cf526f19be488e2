package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;
import tidybridge.core.sql.Renderer;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.Written;

/**
 * Makes the first text of a module from tables, views, routines, statements and documents. What it writes is plain: each statement stands in a file of its own, and nothing
 * is left to be known by the service. Used by one thread.
 */
public final class Drafting {

    private final DraftChoices choices;
    private final Catalog catalog;
    private final Contents contents;
    private final Map<String, List<Written.Entry>> routes = new LinkedHashMap<>();
    private final SortedMap<String, String> statements = new TreeMap<>();
    private final List<FirstText.Note> notes = new ArrayList<>();

    private Drafting(DraftChoices choices, Catalog catalog, Contents contents) {
        this.choices = choices;
        this.catalog = catalog;
        this.contents = contents;
    }

    /**
     * Makes it.
     *
     * @param contents what the source holds
     * @throws UnknownObject when something that was chosen is not there
     * @throws Unreadable when a statement cannot be one of an operation
     */
    public static FirstText of(DraftChoices choices, Catalog catalog, Contents contents) {
        return new Drafting(choices, catalog, contents).make();
    }

    /** A table, view or column was chosen that the source does not hold. */
    public static final class UnknownObject extends RuntimeException {

        private static final int LONGEST = 64;

        /** What is unknown: {@code a column}, of what, and its name, which is shown as far as a name of the database can go. */
        UnknownObject(String where, String what, String name) {
            super(where + " " + what + " '" + (name.length() <= LONGEST ? name : name.substring(0, LONGEST) + "...")
                    + "'; it may be gone since it was chosen.");
        }
    }

    /** A statement that no operation can have. */
    public static final class Unreadable extends RuntimeException {
        Unreadable(String words) {
            super(words);
        }
    }

    private FirstText make() {
        Map<String, TableDraft> drafts = new LinkedHashMap<>();
        for (DraftChoices.TableChoice choice : choices.tables()) {
            Relation relation = contents.relation(choice.name())
                    .orElseThrow(() -> new UnknownObject(source(), "holds no table or view", choice.name()));
            drafts.put(relation.name(), new TableDraft(relation, choice, this));
        }
        for (TableDraft draft : drafts.values()) {
            draft.writeCollection();
            draft.writeRow();
            draft.writeChildren(drafts);
        }
        for (DraftChoices.RoutineChoice choice : choices.routines()) {
            Routine routine = contents.routine(choice.name())
                    .orElseThrow(() -> new UnknownObject(source(), "holds no procedure or function", choice.name()));
            new RoutineDraft(routine, choice.results(), this).write();
        }
        choices.statements().forEach(statement -> new StatementDraft(statement, this).write());
        DraftChoices.DocumentChoice document = choices.document();
        FirstText.MatchedDocument matched =
                document == null ? FirstText.MatchedDocument.NONE : new DocumentDraft(document, this).write();
        List<Written.Entry> all = new ArrayList<>();
        routes.forEach((path, operations) ->
                all.add(new Written.Entry(path, new Written.Keys(sorted(operations)), List.of(""), null)));
        return new FirstText(head(), all, statements, notes, matched);
    }

    /** What a sentence about it begins with. */
    String source() {
        return "The source '" + choices.source() + "'";
    }

    private static final List<String> METHODS = List.of("get", "post", "put", "patch", "delete");

    private static List<Written.Entry> sorted(List<Written.Entry> operations) {
        return operations.stream()
                .sorted(Comparator.comparingInt(operation -> METHODS.indexOf(operation.key())))
                .toList();
    }

    private Written.Keys head() {
        Written.Collector head = new Written.Collector()
                .put("module", choices.module())
                .put("version", choices.version())
                .put("title", choices.title())
                .put("source", choices.source());
        switch (choices.reads()) {
            case DraftChoices.Reach.Everybody() -> head.flag("public");
            case DraftChoices.Reach.Holders(String privilege) -> head.put("needs", privilege);
            case null -> {}
        }
        return head.keys();
    }

    Catalog catalog() {
        return catalog;
    }

    Contents contents() {
        return contents;
    }

    /** Says who may change, where that is another circle than who may read: what everybody may read nobody may change by that alone. */
    Written.Collector changing() {
        Written.Collector access = new Written.Collector();
        if (Objects.equals(choices.changes(), choices.reads())) {
            return access;
        }
        return switch (choices.changes()) {
            case DraftChoices.Reach.Everybody() -> access.flag("public");
            case DraftChoices.Reach.Holders(String privilege) -> access.put("needs", privilege);
            case null ->
                choices.reads() instanceof DraftChoices.Reach.Everybody
                        ? access.put("public", Written.typed(false))
                        : access;
        };
    }

    /**
     * Why the database would not run a statement for the source's user; empty when it would, or when nobody can be asked.
     *
     * @param sql with bind parameters
     */
    Optional<String> refusal(String sql) {
        try {
            Statement statement = Statement.scan(new SourceText("statement.sql", sql), catalog.dialect());
            return catalog.describe(new Renderer(statement).render(name -> true).sql())
                            instanceof Described.Refused(String reason)
                    ? Optional.of(reason)
                    : Optional.empty();
        } catch (BrokenText e) {
            return Optional.of(e.reason());
        } catch (SeveralStatements e) {
            return Optional.of("it would be several statements");
        }
    }

    void note(String subject, String words) {
        notes.add(new FirstText.Note(subject, words));
    }

    /** Adds an operation; false when its place is taken. */
    boolean add(String path, String method, Written.Keys operation) {
        List<Written.Entry> at = routes.computeIfAbsent(path, key -> new ArrayList<>());
        if (at.stream().anyMatch(known -> known.key().equals(method))) {
            return false;
        }
        at.add(new Written.Entry(method, operation));
        return true;
    }

    boolean has(String path, String method) {
        return routes.getOrDefault(path, List.of()).stream()
                .anyMatch(known -> known.key().equals(method));
    }

    /** Keeps a statement under a name that says what it is for, and answers its file. */
    String keep(String name, String sql) {
        String file = name + ".sql";
        for (int number = 2;
                statements.containsKey(file) && !statements.get(file).equals(sql);
                number++) {
            file = name + "-" + number + ".sql";
        }
        statements.put(file, sql);
        return file;
    }
}
