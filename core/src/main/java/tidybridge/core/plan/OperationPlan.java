package tidybridge.core.plan;

import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Needs;
import tidybridge.core.access.Quota;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Binder;
import tidybridge.core.condition.Conditions;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.route.PathTemplate;

/** An operation as requests read it, one kind for each way of answering. All kinds are immutable and thread-safe. */
public sealed interface OperationPlan permits ReadPlan, ChangePlan {

    OperationHeader header();

    AnswerKind answer();

    /** The statement that answers. */
    StatementPlan statement();

    /** The fields of a row of the answer as callers see them, in order; none where no row is shown. */
    List<ShapedField> fields();

    /** The status of HTTP of the answer that is hoped for. */
    default int status() {
        return switch (this) {
            case ChangePlan change -> change.reply().status();
            case NothingPlan nothing -> 204;
            case ReadPlan read -> 200;
        };
    }

    /** How its rows can be answered; JSON as a whole where nothing else is offered. */
    default RowForms forms() {
        return RowForms.NONE;
    }

    default String label() {
        return header().label();
    }

    /** What it asks of its caller. */
    default Needs needs() {
        return header().needs();
    }

    /** How often it may be called; null for as often as its module lets. */
    default @Nullable Quota quota() {
        return header().quota();
    }

    default Method method() {
        return header().method();
    }

    default PathTemplate path() {
        return header().path();
    }

    default List<ParameterDefinition> parameters() {
        return header().parameters();
    }

    /** What its values are read from, in their order: the parameters, and behind them what callers may put on its rows. */
    default List<ParameterDefinition> inputs() {
        return parameters();
    }

    default Binder binder() {
        return header().binder();
    }

    default Duration timeout() {
        return header().timeout();
    }

    default Conditions conditions() {
        return header().conditions();
    }
}
