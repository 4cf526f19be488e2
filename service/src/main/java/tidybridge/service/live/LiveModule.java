package tidybridge.service.live;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Finding;
import tidybridge.core.plan.ModulePlan;
import tidybridge.engine.Source;
import tidybridge.records.Release;

/**
 * A live release and what became of compiling it.
 *
 * @param plan null while it cannot be served
 * @param source null while it cannot be served
 * @param trouble one sentence for the owner that says why it cannot be served; null when it is
 * @param findings what compiling found
 */
public record LiveModule(
        Release release,
        @Nullable ModulePlan plan,
        @Nullable Source source,
        @Nullable ReferenceFiles reference,
        @Nullable String trouble,
        List<Finding> findings) {
    public LiveModule {
        findings = List.copyOf(findings);
    }

    static LiveModule ready(Release release, ModulePlan plan, Source source, List<Finding> findings) {
        return new LiveModule(release, plan, source, new ReferenceFiles(plan), null, findings);
    }

    static LiveModule waiting(Release release, String trouble, List<Finding> findings) {
        return new LiveModule(release, null, null, null, trouble, findings);
    }

    /** The same with something more to be said about it. */
    LiveModule with(Finding finding) {
        List<Finding> more = new ArrayList<>(findings);
        more.add(finding);
        return new LiveModule(release, plan, source, reference, trouble, more);
    }

    /** {@code moorings/v1} */
    public String identity() {
        return release.module() + "/v" + release.version().major();
    }
}
