package tidybridge.service.live;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Finding;
import tidybridge.core.plan.ModulePlan;
import tidybridge.engine.Source;
import tidybridge.records.Release;
import tidybridge.service.access.Needs;

/**
 * A live release and what became of compiling it.
 *
 * @param needs what its callers need, whether or not it can be served
 * @param plan null while it cannot be served
 * @param source null while it cannot be served
 * @param trouble one sentence for the owner that says why it cannot be served; null when it is
 * @param findings what compiling found
 */
public record LiveModule(
        Release release,
        Needs needs,
        @Nullable ModulePlan plan,
        @Nullable Source source,
        @Nullable ReferenceFiles reference,
        @Nullable String trouble,
        List<Finding> findings) {
    public LiveModule {
        findings = List.copyOf(findings);
    }

    static LiveModule ready(Release release, ModulePlan plan, Source source, List<Finding> findings) {
        return new LiveModule(
                release, needs(release, plan.open()), plan, source, new ReferenceFiles(plan), null, findings);
    }

    /**
     * Its source does not answer.
     *
     * @param open as its text says
     */
    static LiveModule waiting(Release release, boolean open) {
        return unfit(release, open, "Its source does not answer; it is tried again every second.", List.of());
    }

    /**
     * It cannot be compiled.
     *
     * @param open as its text says, as far as it can be read
     */
    static LiveModule unfit(Release release, boolean open, String trouble, List<Finding> findings) {
        return new LiveModule(release, needs(release, open), null, null, null, trouble, findings);
    }

    private static Needs needs(Release release, boolean open) {
        return new Needs(identity(release), open);
    }

    boolean isWaiting() {
        return plan == null && findings.isEmpty();
    }

    /** The same with something more to be said about it. */
    LiveModule with(Finding finding) {
        List<Finding> more = new ArrayList<>(findings);
        more.add(finding);
        return new LiveModule(release, needs, plan, source, reference, trouble, more);
    }

    /** {@code moorings/v1} */
    public String identity() {
        return needs.module();
    }

    static String identity(Release release) {
        return release.module() + "/v" + release.version().major();
    }
}
