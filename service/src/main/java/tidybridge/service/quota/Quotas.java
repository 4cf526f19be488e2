package tidybridge.service.quota;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import io.github.bucket4j.TimeMeter;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Quota;
import tidybridge.core.bind.Caller;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.QuotaUses;
import tidybridge.service.capacity.ClockMeter;
import tidybridge.service.run.Refusal;

/**
 * Counts calls against the quotas of clients, modules and operations; all that are written apply. Thread-safe.
 *
 * <p>Calls in a window are counted by all services over the record store together: one service lets exactly as many through as the quota says,
 * and several at most a tenth of it more for each service beside the first, because each tells the others before it is further ahead than that.
 * What is under way at a time is counted by each service alone.
 */
public final class Quotas implements AutoCloseable {

    /** How many counts are kept; what is forgotten is read from the records again. */
    private static final int MOST_COUNTS = 20_000;

    private static final Duration KEPT = Quota.LONGEST_PER;
    private static final int NETWORK_GROUPS = 4;

    private final Function<String, @Nullable Quota> ofClients;
    private final TimeMeter time;
    private final Exchange exchange;
    private final Cache<Key, Count> counts = Caffeine.newBuilder()
            .maximumSize(MOST_COUNTS)
            .expireAfterAccess(KEPT)
            .build();

    /** @param who empty for all callers together */
    private record Key(String what, String who, Quota quota) {

        /** What the records call it. */
        String id() {
            String id = what + " " + quota.per().toSeconds() + "s " + who;
            return id.length() <= QuotaUses.LONGEST_ID ? id : id.substring(0, QuotaUses.LONGEST_ID);
        }
    }

    /**
     * One of the quotas that a call falls under.
     *
     * @param name {@code client}, {@code module} or {@code operation}, as the RateLimit fields call it
     */
    public record Rule(String name, String what, Quota quota) {}

    /** What is known of a quota, for whoever asks why a call was refused. */
    public record State(Rule rule, long left, int running, Duration untilNext) {}

    /** @param ofClients the quota of a client application, null for one without */
    public Quotas(QuotaUses uses, Function<String, @Nullable Quota> ofClients, Clock clock) {
        this.ofClients = ofClients;
        this.exchange = new Exchange(uses, clock);
        this.time = new ClockMeter(clock);
    }

    /** A call that was let through; to be closed when it has ended. */
    public static final class Use implements AutoCloseable {

        /** Of a call that falls under no quota. */
        public static final Use NONE = new Use(List.of());

        private final List<Count> running;

        private Use(List<Count> running) {
            this.running = running;
        }

        @Override
        public void close() {
            for (Count count : running) {
                count.leave();
            }
        }
    }

    /** The quotas that a call falls under, the widest first. */
    public List<Rule> rules(Caller caller, ModulePlan module, OperationPlan operation) {
        Quota ofClient = caller.client() == null ? null : ofClients.apply(caller.client());
        Quota ofModule = module.admission().quota();
        Quota ofOperation = operation.quota();
        if (ofClient == null && ofModule == null && ofOperation == null) {
            return List.of();
        }
        List<Rule> rules = new ArrayList<>(3);
        if (ofClient != null) {
            rules.add(new Rule("client", "client", ofClient));
        }
        if (ofModule != null) {
            rules.add(new Rule("module", module.identity(), ofModule));
        }
        if (ofOperation != null) {
            rules.add(new Rule("operation", operation.label(), ofOperation));
        }
        return rules;
    }

    /**
     * Begins a call.
     *
     * @param fields takes the RateLimit fields of the answer
     * @throws Refusal when one of the quotas is used up; then nothing was counted
     */
    public Use begin(List<Rule> rules, Caller caller, BiConsumer<String, String> fields) throws Refusal {
        String who = who(caller);
        List<Count> taken = new ArrayList<>(rules.size());
        List<Count> entered = new ArrayList<>(rules.size());
        StringBuilder policy = new StringBuilder();
        StringBuilder limit = new StringBuilder();
        for (Rule rule : rules) {
            Count count = count(rule, who);
            if (rule.quota().concurrent() > 0) {
                if (!count.enter()) {
                    undo(taken, entered);
                    throw tooMuch(rule, caller);
                }
                entered.add(count);
            }
            if (count.hasWindow()) {
                Count.Taken call = take(count);
                RateLimitFields.add(policy, limit, rule, call);
                if (!call.isLet()) {
                    undo(taken, entered);
                    RateLimitFields.tell(policy, limit, fields);
                    throw tooOften(rule, caller, Duration.ofNanos(call.nanosToNext()));
                }
                taken.add(count);
            }
        }
        RateLimitFields.tell(policy, limit, fields);
        return entered.isEmpty() ? Use.NONE : new Use(entered);
    }

    private Count.Taken take(Count count) {
        if (count.left() == 0) {
            return count.none();
        }
        exchange.reserve(count);
        return count.take();
    }

    private static void undo(List<Count> taken, List<Count> entered) {
        taken.forEach(Count::giveBack);
        entered.forEach(Count::leave);
    }

    /** What is known here of the quotas that a call would fall under. */
    public List<State> states(List<Rule> rules, Caller caller) {
        String who = who(caller);
        return rules.stream()
                .map(rule -> {
                    Count count = count(rule, who);
                    return new State(rule, count.left(), count.running(), count.untilNext());
                })
                .toList();
    }

    private Count count(Rule rule, String who) {
        Key key = new Key(rule.what(), rule.quota().together() ? "" : who, rule.quota());
        return counts.get(key, made -> new Count(made.id(), made.quota(), time));
    }

    private static String who(Caller caller) {
        String identity = caller.identity();
        return identity == null ? network(caller.address()) : identity;
    }

    /** Whoever has an IPv6 address has a whole network of them. */
    private static String network(String address) {
        int end = -1;
        for (int i = 0; i < NETWORK_GROUPS; i++) {
            end = address.indexOf(':', end + 1);
            if (end < 0) {
                return address;
            }
        }
        return address.substring(0, end);
    }

    private static Refusal tooOften(Rule rule, Caller caller, Duration wait) {
        long seconds = Refusal.seconds(wait);
        return refusal(
                "The quota of " + rule.quota().calls() + " calls in "
                        + rule.quota().per().toSeconds() + " s " + of(rule, caller)
                        + " is used up; the next call may come in "
                        + seconds + " s.",
                seconds);
    }

    private static Refusal tooMuch(Rule rule, Caller caller) {
        return refusal(
                "As many calls as may be under way at a time " + of(rule, caller) + ", "
                        + rule.quota().concurrent() + ", are under way; wait until one has ended.",
                1);
    }

    private static String of(Rule rule, Caller caller) {
        String whose = rule.quota().together()
                ? "all callers together"
                : caller.isKnown() ? "'" + caller.name() + "'" : "the calling address";
        return "of " + whose
                + switch (rule.name()) {
                    case "client" -> "";
                    case "module" -> " on the module";
                    default -> " on the operation";
                };
    }

    private static Refusal refusal(String detail, long seconds) {
        return new Refusal(
                Problem.of(ProblemKind.QUOTA_USED_UP, detail), Map.of("Retry-After", String.valueOf(seconds)));
    }

    @Override
    public void close() {
        exchange.close();
    }
}
