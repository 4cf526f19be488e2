package tidybridge.service.trial;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.catalog.Contents;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;
import tidybridge.engine.Comparison;
import tidybridge.engine.Rehearsed;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Transaction;
import tidybridge.engine.TransactionSettings;
import tidybridge.engine.WatchQuery;
import tidybridge.service.gateway.Changing;
import tidybridge.service.gateway.Exchange;
import tidybridge.service.gateway.Refusal;
import tidybridge.service.gateway.Reply;
import tidybridge.service.live.Running;

/** Runs a change for real, looks at what it did, and has it undone. Used once. */
final class Rehearsing implements Changing.Watch {

    private static final int MOST_WATCHES = 5;

    /** The server's words when something would commit inside a rehearsal: XAER_RMFAIL. */
    private static final int CANNOT_COMMIT = 1399;

    private final Running running;
    private final ChangePlan change;
    private final List<String> watches;
    private final List<WatchQuery> before = new ArrayList<>();
    private @Nullable Comparison comparison;
    private Trial.@Nullable Rehearsal seen;

    Rehearsing(Running running, ChangePlan change, List<String> watches) {
        this.running = running;
        this.change = change;
        this.watches = List.copyOf(watches);
    }

    /** What was seen; null when the change was refused. */
    Trial.@Nullable Rehearsal seen() {
        return seen;
    }

    void run(Inputs inputs, Exchange exchange) throws BadInput, SourceFailure, Refusal, IOException {
        checkWatches();
        Contents contents = running.source().catalog().contents().orElseThrow();
        @Nullable
        Object[] values = change.batch() == null
                ? running.plan().binder().bind(inputs).values()
                : new @Nullable Object[running.plan().parameters().size()];
        Comparison compared = new Comparison(running.source(), change, values, contents);
        String obstacle = compared.obstacle().orElse(null);
        if (obstacle != null) {
            throw new Refusal(ProblemKind.CONFLICT, obstacle);
        }
        comparison = compared;
        try {
            Reply reply = new Changing(running, change, TransactionSettings.Ending.ROLL_BACK).reply(inputs, this);
            reply.send(exchange);
        } catch (SourceFailure e) {
            if (e.kind() == ConditionKind.OTHER && e.condition().number() == CANNOT_COMMIT) {
                throw new Refusal(
                        ProblemKind.CONFLICT,
                        "Something in it commits or changes the schema, which cannot be undone; it was stopped there, and nothing is kept.");
            }
            throw e;
        }
    }

    private void checkWatches() throws Refusal {
        if (watches.size() > MOST_WATCHES) {
            throw new Refusal(ProblemKind.CONFLICT, "At most " + MOST_WATCHES + " queries can be watched.");
        }
        for (String sql : watches) {
            try {
                Statement statement = Statement.scan(new SourceText("watch", sql));
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
    public void after(Transaction transaction, Reply reply) throws SourceFailure {
        if (comparison == null) {
            return;
        }
        Rehearsed changes = comparison.after(transaction);
        List<Trial.Watched> watched = new ArrayList<>();
        for (int i = 0; i < watches.size(); i++) {
            WatchQuery after = WatchQuery.ask(transaction, watches.get(i));
            watched.add(new Trial.Watched(
                    watches.get(i), after.columns(), before.get(i).rows(), after.rows()));
        }
        seen = new Trial.Rehearsal(changes, watched);
    }
}
