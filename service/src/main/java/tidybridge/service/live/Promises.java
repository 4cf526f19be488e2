package tidybridge.service.live;

import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.contract.CatalogFacts;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.plan.ModulePlan;
import tidybridge.engine.Source;
import tidybridge.engine.Sources;
import tidybridge.records.KeptContract;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.Retirement;

/** What releases promised when they were published. Thread-safe. */
final class Promises {

    private static final Logger LOG = LoggerFactory.getLogger(Promises.class);

    private final Records records;
    private final Sources sources;
    private final Clock clock;

    Promises(Records records, Sources sources, Clock clock) {
        this.records = records;
        this.sources = sources;
        this.clock = clock;
    }

    /**
     * Reads what a release promised. Its contract is kept in the record store, and read from there only where the plan of today would
     * promise something else.
     *
     * @param plan its text compiled against the database as it is now
     */
    Supplier<Contract> of(Release release, ModulePlan plan) {
        return () -> {
            Contract today = Contract.of(plan);
            String kept = release.contractHash();
            return kept == null || kept.equals(KeptContract.hash(today.text()))
                    ? today
                    : kept(release).orElse(today);
        };
    }

    private Optional<Contract> kept(Release release) {
        try {
            return records.releases().kept(release.id()).map(kept -> Contract.read(kept.contract()));
        } catch (DataAccessException | IllegalArgumentException e) {
            LOG.warn("What {} {} promised cannot be read: {}", release.module(), release.version(), e.getMessage());
            return Optional.empty();
        }
    }

    /**
     * What is not live any more, by identity.
     *
     * @param known what was known of it already, which is not read again
     */
    Map<String, RetiredModule> retired(Map<String, RetiredModule> known) {
        Map<String, RetiredModule> all = new HashMap<>();
        for (Retirement retirement : records.releases().retired()) {
            RetiredModule module = known.get(retirement.identity());
            if (module == null || !module.retirement().equals(retirement)) {
                module = retired(retirement);
            }
            if (module != null) {
                all.put(retirement.identity(), module);
            }
        }
        return all;
    }

    /** What was live last under a major version that is retired; null where it cannot be read. */
    private @Nullable RetiredModule retired(Retirement retirement) {
        return records.releases().of(List.of(retirement.release())).stream()
                .findFirst()
                .map(release ->
                        RetiredModule.of(retirement, release, kept(release).orElse(null)))
                .orElse(null);
    }

    /** Keeps what a live release promises that was published before contracts were kept, so that the next one can be compared with it. */
    void keepLater(LiveModule module) {
        ModulePlan plan = module.plan();
        Source source = module.source();
        if (plan == null || source == null || module.release().contractHash() != null) {
            return;
        }
        String facts = facts(module.release().text(), source).text();
        try {
            records.releaseChanges()
                    .keepLater(
                            module.release().id(),
                            KeptContract.later(Contract.of(plan).text(), facts),
                            clock.instant());
        } catch (DataAccessException e) {
            LOG.warn("What {} promises could not be kept: {}", module.identity(), e.getMessage());
        }
    }

    /** Reads anew what a source holds, in some way. */
    static void readAnew(Source source, Runnable reading) {
        try {
            reading.run();
        } catch (Source.Unreachable e) {
            LOG.warn("What {} holds cannot be read anew: {}", source.settings().name(), e.getMessage());
        }
    }

    /** What a source holds of that which a text names, as it was read last. */
    static CatalogFacts facts(ModuleText text, Source source) {
        try {
            return source.catalog()
                    .contents()
                    .map(contents ->
                            CatalogFacts.of(text, contents, source.catalog().dialect()))
                    .orElse(CatalogFacts.UNKNOWN);
        } catch (Source.Unreachable e) {
            return CatalogFacts.UNKNOWN;
        }
    }
}
