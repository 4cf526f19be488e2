package tidybridge.service.trial;

import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.catalog.Contents;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;
import tidybridge.engine.Comparison;
import tidybridge.engine.RehearsalChanges;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Transaction;
import tidybridge.engine.WatchQuery;
import tidybridge.service.gateway.Exchange;
import tidybridge.service.gateway.OperationCall;
import tidybridge.service.run.ChangeWatch;
import tidybridge.service.run.HeldAnswer;
import tidybridge.service.run.Notice;
import tidybridge.service.run.Refusal;
import tidybridge.service.run.RunnableOperation;

/** Runs a change for real, looks at what it did, and has it undone. Used once. */
final class RehearsalRun implements ChangeWatch {

    private static final int MOST_WATCHES = 5;

    private final RunnableOperation operation;
    private final ChangePlan change;
    private final List<String> watches;
    private static final Duration FRESH = Duration.ofSeconds(1);

    private final List<WatchQuery> before = new ArrayList<>();
    private final Set<Notice> notices = EnumSet.noneOf(Notice.class);
    private @Nullable Comparison comparison;
    private Trial.@Nullable Rehearsal seen;

    RehearsalRun(RunnableOperation operation, ChangePlan change, List<String> watches) {
        this.operation = operation;
        this.change = change;
        this.watches = List.copyOf(watches);
    }

    /** What was seen; null when the change was refused. */
    Trial.@Nullable Rehearsal seen() {
        return seen;
    }

    void run(Inputs inputs, Exchange exchange) throws BadInput, SourceFailure, Refusal, IOException {
        checkWatches();
        // every table that is there is compared, and none that is gone
        operation.source().catalog().refreshed(FRESH);
        Contents contents = operation.source().catalog().contents().orElseThrow();
        @Nullable
        Object[] values = change.batch() == null
                ? change.binder().bind(inputs).values()
                : new @Nullable Object[change.parameters().size()];
        Comparison compared = new Comparison(operation.source(), change.sequence(), values, contents);
        String obstacle = compared.obstacle().orElse(null);
        if (obstacle != null) {
            throw new Refusal(ProblemKind.CONFLICT, obstacle);
        }
        comparison = compared;
        OperationCall call = new OperationCall(operation, exchange, false);
        try {
            call.tryOut(inputs, this);
        } catch (SourceFailure e) {
            if (e.isCommitInRehearsal()) {
                throw new Refusal(
                        ProblemKind.CONFLICT,
                        "Something in it commits or changes the schema, which cannot be undone; it was stopped there, and nothing is kept.");
            }
            throw e;
        } finally {
            notices.addAll(call.notices());
        }
    }

    /** What running it showed that its owner must hear of. */
    Set<Notice> notices() {
        return notices;
    }

    private void checkWatches() throws Refusal {
        if (watches.size() > MOST_WATCHES) {
            throw new Refusal(ProblemKind.CONFLICT, "At most " + MOST_WATCHES + " queries can be watched.");
        }
        for (String sql : watches) {
            try {
                Statement statement = Statement.scan(
                        new SourceText("watch", sql),
                        operation.source().catalog().dialect());
                if (statement.kind() == StatementKind.QUERY && statement.binds().isEmpty()) {
                    continue;
                }
            } catch (BrokenText | SeveralStatements e) {
                // told below
            }
            throw new Refusal(ProblemKind.CONFLICT, "What is watched must be one query with its values written out.");
        }
    }

    @Override
    public void before(Transaction transaction) throws SourceFailure {
        before.clear();
        for (String sql : watches) {
            before.add(WatchQuery.ask(transaction, sql));
        }
        if (comparison != null) {
            comparison.before(transaction);
        }
    }

    @Override
    public void after(Transaction transaction, HeldAnswer reply) throws SourceFailure {
        if (comparison == null) {
            return;
        }
        RehearsalChanges changes = comparison.after(transaction);
        List<Trial.Watched> watched = new ArrayList<>();
        for (int i = 0; i < watches.size(); i++) {
            WatchQuery after = WatchQuery.ask(transaction, watches.get(i));
            watched.add(new Trial.Watched(
                    watches.get(i), after.columns(), before.get(i).rows(), after.rows()));
        }
        seen = new Trial.Rehearsal(changes, watched);
    }
}
