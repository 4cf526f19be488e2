package tidybridge.core.contract;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Needs;
import tidybridge.core.access.Quota;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Assistants;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Method;
import tidybridge.core.route.PathTemplate;

/**
 * What is promised of one operation.
 *
 * @param path below the module, {@code /berths/{berthId}}
 * @param id what the reference calls it
 * @param quota null for as often as its module lets
 * @param deprecated null while callers may begin to use it
 * @param inputs what callers send of their own; what the service understands of every operation of its kind is told by the other parts
 * @param page null for what is no collection
 * @param change null for what only reads
 * @param assistants null where the text says nothing of them
 */
public record OperationTerms(
        Method method,
        String path,
        String id,
        @Nullable String about,
        Needs needs,
        @Nullable Quota quota,
        @Nullable Deprecation deprecated,
        List<InputTerms> inputs,
        BodyTerms body,
        AnswerTerms answer,
        @Nullable PageTerms page,
        @Nullable ChangeTerms change,
        List<RefusalTerms> refusals,
        @Nullable Assistants assistants) {
    public OperationTerms {
        inputs = List.copyOf(inputs);
        refusals = List.copyOf(refusals);
    }

    /** True for what reads, in one statement or in several. */
    public boolean reads() {
        return change == null || change.readOnly();
    }

    /** True for a tool of assistants: a read unless the text withholds it, a change when it offers it. */
    public boolean offered() {
        return answer.kind() != AnswerKind.FILE && (assistants == null ? reads() : assistants == Assistants.OFFERED);
    }

    /** {@code GET /berths/{berthId}} */
    public String label() {
        return method + " " + path;
    }

    /** {@code GET /berths/{}}: what tells it from every other operation of a module. */
    public String shape() {
        return method + " " + PathTemplate.shape(path);
    }
}
