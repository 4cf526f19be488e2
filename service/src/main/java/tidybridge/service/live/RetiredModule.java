package tidybridge.service.live;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.Contract;
import tidybridge.records.Release;
import tidybridge.records.Retirement;

/**
 * A major version that was live once; those who might call it are told that it is gone.
 *
 * @param module what was live last, with what it asked of its callers
 * @param successor {@code moorings/v2}, as its text says; null where it says nothing
 */
public record RetiredModule(
        Retirement retirement, LiveModule module, @Nullable String successor) {

    /**
     * Remembers what was live last.
     *
     * @param contract what it promised; null where that is not known, so that only holders of every privilege are told
     */
    static RetiredModule of(Retirement retirement, Release release, @Nullable Contract contract) {
        LiveModule.Said said = contract == null ? LiveModule.Said.unknown(release) : LiveModule.Said.of(contract);
        return new RetiredModule(
                retirement,
                LiveModule.unfit(release, said, "It is retired.", List.of()),
                contract == null || contract.deprecated() == null
                        ? null
                        : contract.deprecated().successor());
    }
}
