package tidybridge.core.drafting;

import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import tidybridge.core.advise.StatementLook;
import tidybridge.core.infer.BindTypes;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.PlainName;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.Written;

/** The operation of a statement that somebody has: its parameters with their types, its answer, and a proposed path. */
final class StatementDraft {

    private static final Set<String> WITH_BODY = Set.of("post", "patch");

    private final DraftChoices.StatementChoice choice;
    private final Drafting drafting;

    StatementDraft(DraftChoices.StatementChoice choice, Drafting drafting) {
        this.choice = choice;
        this.drafting = drafting;
    }

    /**
     * Adds it.
     *
     * @throws Drafting.Unreadable when it is no statement that an operation can have
     */
    void write() {
        SourceText source = new SourceText("statement.sql", choice.sql());
        StatementLook look = StatementLook.of(source, drafting.catalog());
        StatementKind kind = look.kind();
        if (kind == null || look.trouble() != null) {
            throw new Drafting.Unreadable(look.trouble() == null ? "It cannot be read." : look.trouble());
        }
        Statement statement = scanned(source);
        String method = method(kind);
        String path = choice.path().isEmpty() ? "/" + segment(statement) : choice.path();
        String name = PlainName.of(path, "-");
        Written.Collector operation = new Written.Collector()
                .put("about", "Say what it " + (kind == StatementKind.QUERY ? "answers" : "does"))
                .put(
                        "sql",
                        drafting.keep(
                                (name.isEmpty() ? "statement" : name) + "-" + method,
                                choice.sql().stripTrailing() + "\n"));
        answer(operation, kind, look, statement);
        Written.Collector parameters = new Written.Collector();
        look.binds().stream()
                .filter(bind -> !isHandedBack(statement, bind.name()))
                .forEach(bind -> parameters.put(bind.name(), parameter(bind, path, method)));
        if (!parameters.isEmpty()) {
            operation.put("parameters", parameters.keys());
        }
        Written.Keys whole = kind == StatementKind.QUERY
                ? operation.keys()
                : drafting.changing().putAll(operation.keys()).keys();
        if (!drafting.add(path, method, whole)) {
            drafting.note(path, method.toUpperCase(Locale.ROOT) + " " + path + " is there already; say another path.");
        }
    }

    private Statement scanned(SourceText source) {
        try {
            return Statement.scan(source, drafting.catalog().dialect());
        } catch (BrokenText e) {
            throw new Drafting.Unreadable("It cannot be read: " + e.reason() + ".");
        } catch (SeveralStatements e) {
            throw new Drafting.Unreadable("It is more than one statement.");
        }
    }

    private static String method(StatementKind kind) {
        return switch (kind) {
            case QUERY -> "get";
            case INSERT, REPLACE, CALL -> "post";
            case UPDATE -> "patch";
            case DELETE -> "delete";
            case SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN ->
                throw new Drafting.Unreadable("An operation runs a query, a change or a call, and nothing else.");
        };
    }

    private static String segment(Statement statement) {
        Optional<String> named = statement
                .called()
                .or(() -> statement.target().map(target -> target.table()))
                .or(() -> statement.tables().stream()
                        .map(Outline.TableUse::name)
                        .filter(name -> name != null)
                        .findFirst());
        return named.map(ColumnNames::segment).orElse("statement");
    }

    private static void answer(
            Written.Collector operation, StatementKind kind, StatementLook look, Statement statement) {
        if (kind != StatementKind.QUERY) {
            operation.put("answer", statement.returnsRows() || kind == StatementKind.CALL ? "row" : "nothing");
            return;
        }
        Outline.Block main = statement.outline().main();
        boolean one = main != null && ((main.aggregated() && !main.hasGroups()) || main.limitsToOne());
        if (one) {
            operation.put("answer", look.fields().size() == 1 ? "value" : "row");
        } else {
            operation.put("answer", "rows");
            if (!look.order().isEmpty()) {
                operation.put("order", Written.texts(look.order()));
            }
        }
    }

    /** An argument that a procedure fills is no input. */
    private boolean isHandedBack(Statement statement, String bind) {
        return new BindTypes(drafting.contents()).isHandedBack(statement, bind);
    }

    private static Written parameter(StatementLook.FoundBind bind, String path, String method) {
        boolean inPath = path.contains("{" + bind.name() + "}");
        Written.Collector parameter =
                new Written.Collector().put("in", inPath ? "path" : WITH_BODY.contains(method) ? "body" : "query");
        Written.Keys limits = Written.keysOf("{ " + bind.limits() + " }");
        if (bind.list()) {
            parameter.put("type", "array").put("items", limits);
        } else {
            parameter.putAll(limits);
        }
        return (bind.optional() || inPath ? parameter : parameter.flag("required")).keys();
    }
}
