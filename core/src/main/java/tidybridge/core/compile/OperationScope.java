package tidybridge.core.compile;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Needs;
import tidybridge.core.bind.Askable;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.ValueReader;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.condition.Conditions;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.OperationHeader;
import tidybridge.core.plan.Variant;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.sql.Purpose;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.TimeLimit;
import tidybridge.core.text.Place;

/**
 * What the compilers and checks of one operation work with.
 *
 * @param findings takes what is unfit
 */
record OperationScope(
        ModuleDefinition module,
        RouteDefinition route,
        PathTemplate path,
        OperationDefinition operation,
        Catalog catalog,
        Findings findings,
        Compiler.Forms forms) {

    boolean asksForEveryForm() {
        return forms == Compiler.Forms.EVERY_KIND;
    }

    /** What the operation asks of its caller. */
    Needs needs() {
        return module.needs(route, operation);
    }

    String label() {
        return identity() + " " + OperationDefinition.label(operation.method(), path.text());
    }

    /** {@code moorings/v1} */
    String identity() {
        return module.name() + "/v" + module.version().major();
    }

    /** A statement in the form in which the source stops it in time. */
    String bounded(String sql, Purpose purpose) {
        return catalog.bounded(sql, new TimeLimit(timeout(purpose), purpose));
    }

    private Duration timeout(Purpose purpose) {
        PageRule page = operation.page();
        return switch (purpose) {
            case PAGE -> operation.timeout();
            case ALL -> page == null ? operation.timeout() : page.allTimeout();
            case COUNT -> operation.collection().totalTimeout();
        };
    }

    /**
     * The operation's header.
     *
     * @param ask what callers may ask beside its parameters
     */
    OperationHeader header(Conditions conditions, Askable ask) {
        return header(conditions, ask, operation.parameters());
    }

    /**
     * The same of an operation whose callers may send more than its own parameters.
     *
     * @param inputs the parameters, and what values are read from behind them
     */
    OperationHeader header(Conditions conditions, Askable ask, List<ParameterDefinition> inputs) {
        try {
            return new OperationHeader(
                    identity(),
                    label(),
                    needs(),
                    operation.quota(),
                    operation.id(),
                    operation.method(),
                    path,
                    operation.about(),
                    operation.sql().file(),
                    operation.sql().text(),
                    operation.parameters(),
                    new Binder(inputs, path.placeholders(), ask),
                    operation.timeout(),
                    conditions,
                    operation.assistants(),
                    operation.deprecated());
        } catch (ValueReader.Unfit e) {
            throw new IllegalStateException("defaults were checked before", e);
        }
    }

    /**
     * The columns of a statement's rows; null with a finding, or null without one when nobody was asked.
     *
     * @param plain with a question mark for each value: only then a database knows what may be null
     * @param sample with a value of its kind for each: only then a database knows the types of expressions
     */
    @Nullable
    List<Field> describe(Statement statement, String plain, String sample) {
        return switch (catalog.describe(plain)) {
            case Described.Fields(List<Field> fields) ->
                plain.endsWith(sample) || !(catalog.describe(sample) instanceof Described.Fields(List<Field> typed))
                        ? fields
                        : typed(fields, typed);
            case Described.Refused(String reason) -> {
                refused(statement, reason);
                yield null;
            }
            case Described.Unknown() -> null;
        };
    }

    private static List<Field> typed(List<Field> plain, List<Field> sample) {
        List<Field> fields = new ArrayList<>(plain.size());
        for (int i = 0; i < plain.size() && plain.size() == sample.size(); i++) {
            fields.add(sample.get(i)
                    .withNullable(plain.get(i).nullable() || sample.get(i).nullable()));
        }
        return fields.isEmpty() ? plain : fields;
    }

    /** True when the source can prepare all of these forms; a finding tells of the first that it cannot. */
    boolean prepares(Statement statement, List<Variant> samples) {
        for (Variant sample : samples) {
            if (catalog.describe(sample.sql()) instanceof Described.Refused(String reason)) {
                refused(statement, reason);
                return false;
            }
        }
        return true;
    }

    void refused(Statement statement, String reason) {
        findings.add(
                Code.STATEMENT_REFUSED,
                statement
                        .dialect()
                        .placeOf(statement, reason)
                        .orElse(Place.of(statement.source().file())),
                "The source '" + module.source() + "' cannot prepare the statement: " + reason + ".",
                "Mend it here, or run the file in an SQL client against the same schema.");
    }
}
