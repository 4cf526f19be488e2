package tidybridge.service.quota;

import java.time.Duration;
import java.util.function.BiConsumer;
import tidybridge.service.run.Refusal;

/** Tells callers how much of their quotas is left, in the RateLimit fields of the IETF's HTTP API working group, as structured fields (RFC 9651). */
final class RateLimitFields {

    private RateLimitFields() {}

    static void add(StringBuilder policy, StringBuilder limit, Quotas.Rule rule, Count.Taken call) {
        policy.append(policy.isEmpty() ? "\"" : ", \"")
                .append(rule.name())
                .append("\";q=")
                .append(rule.quota().calls())
                .append(";w=")
                .append(rule.quota().per().toSeconds());
        limit.append(limit.isEmpty() ? "\"" : ", \"")
                .append(rule.name())
                .append("\";r=")
                .append(call.left())
                .append(";t=")
                .append(Refusal.seconds(Duration.ofNanos(call.nanosToNext())));
    }

    static void tell(StringBuilder policy, StringBuilder limit, BiConsumer<String, String> fields) {
        if (!policy.isEmpty()) {
            fields.accept("RateLimit-Policy", policy.toString());
            fields.accept("RateLimit", limit.toString());
        }
    }
}
