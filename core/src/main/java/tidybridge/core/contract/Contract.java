package tidybridge.core.contract;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Listing;
import tidybridge.core.definition.Version;
import tidybridge.core.plan.ModulePlan;

/**
 * What a release promises those who call it. It is made when the release is published and kept with it: neither its text nor a database is
 * asked again to know it. Only data; immutable and thread-safe.
 *
 * @param form of this data, {@link #FORM} for what this program makes
 * @param module its name
 * @param listing null where a module says nothing of it
 * @param deprecated null while callers may begin to use it
 */
public record Contract(
        int form,
        String module,
        Version version,
        String title,
        @Nullable String about,
        @Nullable Listing listing,
        AdmissionTerms admission,
        @Nullable Deprecation deprecated,
        List<OperationTerms> operations) {

    /** The form of contracts that this program makes; it reads those of every form up to it. */
    public static final int FORM = 1;

    public Contract {
        operations = List.copyOf(operations);
    }

    /** What a module promises that is run by this plan. */
    public static Contract of(ModulePlan plan) {
        return new ContractOfPlan(plan).contract();
    }

    /**
     * Reads what {@link #text()} wrote.
     *
     * @throws IllegalArgumentException when it is no contract, or one of a form that this program does not know
     */
    public static Contract read(String text) {
        return ContractText.read(text);
    }

    /** As JSON; equal contracts are equal texts. */
    public String text() {
        return ContractText.write(this);
    }

    /** {@code moorings/v1}, what is live at most once. */
    public String identity() {
        return module + "/v" + version.major();
    }

    /** The same with other operations. */
    public Contract with(List<OperationTerms> others) {
        return new Contract(form, module, version, title, about, listing, admission, deprecated, others);
    }

    /** How it is found. */
    public Listing found() {
        return listing == null ? Listing.USUAL : listing;
    }

    /** Where it is served. */
    public String basePath() {
        return "/api/" + identity();
    }
}
