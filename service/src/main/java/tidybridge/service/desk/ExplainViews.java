package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Explanation;
import tidybridge.core.plan.OperationPlan;
import tidybridge.records.RefusedCall;

/** What the management API shows of why calls are let through or refused. */
final class ExplainViews {

    private ExplainViews() {}

    private static String label(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT);
    }

    record StepView(String subject, String outcome, String sentence) {}

    record AnswerView(
            String method, String path, boolean open, List<String> needs, String outcome, List<StepView> steps) {

        static AnswerView of(OperationPlan operation, Explanation explanation) {
            return new AnswerView(
                    operation.method().name(),
                    operation.path().text(),
                    operation.needs().open(),
                    operation.needs().anyOf(),
                    label(explanation.outcome()),
                    explanation.steps().stream()
                            .map(step -> new StepView(label(step.subject()), label(step.outcome()), step.sentence()))
                            .toList());
        }
    }

    /**
     * Somebody, or a role, that may call.
     *
     * @param by the role that somebody may by, or what a role holds
     * @param trouble why they cannot call all the same; null when they can
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record HolderView(String name, String by, @Nullable String trouble) {}

    record HoldersView(
            String method,
            String path,
            boolean open,
            List<String> needs,
            List<HolderView> roles,
            List<HolderView> clients,
            List<HolderView> people) {

        static HoldersView of(
                OperationPlan operation, List<HolderView> roles, List<HolderView> clients, List<HolderView> people) {
            return new HoldersView(
                    operation.method().name(),
                    operation.path().text(),
                    operation.needs().open(),
                    operation.needs().anyOf(),
                    roles,
                    clients,
                    people);
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record RefusedCallView(
            Instant at,
            String requestId,
            @Nullable String module,
            @Nullable String operation,
            @Nullable String who,
            String address,
            int status,
            String code,
            String reason) {

        static RefusedCallView of(RefusedCall call) {
            return new RefusedCallView(
                    call.at(),
                    call.requestId(),
                    call.module(),
                    call.operation(),
                    call.who(),
                    call.address(),
                    call.status(),
                    call.code(),
                    call.reason());
        }
    }

    record RefusedCallsView(List<RefusedCallView> calls) {}
}
