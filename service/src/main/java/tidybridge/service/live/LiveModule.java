package tidybridge.service.live;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.Admission;
import tidybridge.core.access.Needs;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Listing;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.finding.Finding;
import tidybridge.core.plan.ModulePlan;
import tidybridge.engine.Source;
import tidybridge.records.Release;

/**
 * A live release and what became of compiling it.
 *
 * @param identity {@code moorings/v1}
 * @param said what its text says to those who do not call it yet, whether or not it can be served
 * @param plan null while it cannot be served
 * @param source null while it cannot be served
 * @param trouble one sentence for the owner that says why it cannot be served; null when it is
 * @param findings what compiling found
 */
public record LiveModule(
        Release release,
        String identity,
        Said said,
        @Nullable ModulePlan plan,
        @Nullable Source source,
        @Nullable ReferenceFiles reference,
        @Nullable String trouble,
        List<Finding> findings) {

    private static final String WAITING_FOR_SOURCE = "Its source does not answer; it is tried again every second.";
    private static final String BEING_COMPILED = "It is being compiled, since the service has just started.";

    public LiveModule {
        findings = List.copyOf(findings);
    }

    /**
     * It can be served.
     *
     * @param promised reads what it promised when it was published
     */
    static LiveModule ready(
            Release release, Supplier<Contract> promised, ModulePlan plan, Source source, List<Finding> findings) {
        return new LiveModule(
                release,
                identity(release),
                Said.of(plan),
                plan,
                source,
                new ReferenceFiles(plan.basePath(), promised),
                null,
                findings);
    }

    /**
     * Its source does not answer.
     *
     * @param said who may call from where, as its text says
     */
    static LiveModule waiting(Release release, Said said) {
        return unfit(release, said, WAITING_FOR_SOURCE, List.of());
    }

    /**
     * It cannot be compiled.
     *
     * @param said who may call from where, as its text says, as far as it can be read
     */
    static LiveModule unfit(Release release, Said said, String trouble, List<Finding> findings) {
        return new LiveModule(release, identity(release), said, null, null, null, trouble, findings);
    }

    /** It was live when the service started, and is compiled at the latest when its first caller comes. */
    static LiveModule pending(Release release) {
        return unfit(release, Said.unknown(release), BEING_COMPILED, List.of());
    }

    /**
     * What a module says of itself to those who do not call it yet.
     *
     * @param needs what its operations ask of their callers, each once; who meets one may know of the module
     * @param admission from where, how and how often it may be called
     * @param deprecated null while callers may begin to use it
     */
    public record Said(
            String title,
            @Nullable String about,
            Listing listing,
            List<Needs> needs,
            Admission admission,
            @Nullable Deprecation deprecated) {

        public Said {
            needs = List.copyOf(needs);
        }

        static Said of(ModulePlan plan) {
            return new Said(
                    plan.title(),
                    plan.about(),
                    plan.listing(),
                    plan.needs().distinct().toList(),
                    plan.admission(),
                    plan.deprecated());
        }

        static Said of(ModuleDefinition module) {
            return new Said(
                    module.title(),
                    module.about(),
                    module.listing(),
                    module.needs().distinct().toList(),
                    module.admission(),
                    module.deprecated());
        }

        /** Of what was live once; only from where and how it was called is told of its admission. */
        static Said of(Contract contract) {
            return new Said(
                    contract.title(),
                    contract.about(),
                    contract.found(),
                    contract.operations().stream()
                            .map(OperationTerms::needs)
                            .distinct()
                            .toList(),
                    new Admission(
                            AddressList.of(contract.admission().addresses()),
                            contract.admission().tls(),
                            null,
                            null),
                    contract.deprecated());
        }

        /** Where nothing can be read: holders of every privilege alone may know of it. */
        static Said unknown(Release release) {
            return new Said(release.module(), null, Listing.USUAL, List.of(), Admission.USUAL, null);
        }
    }

    /** What its operations ask of their callers, each once, whether or not they can be served; who meets one may know of the module. */
    public List<Needs> needs() {
        return said.needs();
    }

    /** From where, how and how often it may be called. */
    public Admission admission() {
        return said.admission();
    }

    /**
     * The same, going on in place of a later release that this node cannot serve.
     *
     * @param later the release that should be live
     */
    LiveModule behind(LiveModule later) {
        String why = later.trouble();
        return new LiveModule(
                release,
                identity,
                said,
                plan,
                source,
                reference,
                "This node goes on with " + release.version() + " because it cannot serve "
                        + later.release().version() + "." + (why == null ? "" : " " + why),
                findings);
    }

    /** How this node serves it. */
    public enum State {
        /** As the records say. */
        SERVED,
        /** In an earlier release, until the one that should be live can be served. */
        BEHIND,
        /** As soon as it is compiled, a moment after the start. */
        PENDING,
        /** Not before its source answers. */
        WAITING,
        /** Not at all. */
        UNFIT;

        /** The word for it in outputs. */
        public String label() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** How this node serves it. */
    public State state() {
        if (plan != null) {
            return trouble == null ? State.SERVED : State.BEHIND;
        }
        if (BEING_COMPILED.equals(trouble)) {
            return State.PENDING;
        }
        return WAITING_FOR_SOURCE.equals(trouble) ? State.WAITING : State.UNFIT;
    }

    /** True when it goes on in place of a later release. */
    boolean isBehind() {
        return state() == State.BEHIND;
    }

    boolean isWaiting() {
        return state() == State.WAITING;
    }

    /** The same with something more to be said about it. */
    LiveModule with(Finding finding) {
        List<Finding> more = new ArrayList<>(findings);
        more.add(finding);
        return new LiveModule(release, identity, said, plan, source, reference, trouble, more);
    }

    static String identity(Release release) {
        return release.module() + "/v" + release.version().major();
    }
}
