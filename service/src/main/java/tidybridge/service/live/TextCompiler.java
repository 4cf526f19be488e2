package tidybridge.service.live;

import java.time.Duration;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.access.Role;
import tidybridge.core.advise.Proposal;
import tidybridge.core.advise.Proposals;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.compile.Compiler;
import tidybridge.core.contract.CatalogFacts;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.text.Nearest;
import tidybridge.engine.Source;
import tidybridge.engine.Sources;
import tidybridge.records.Release;

/** Reads and compiles the texts of modules against the sources of this environment. Holds no lock; thread-safe. */
public final class TextCompiler {

    private static final Logger LOG = LoggerFactory.getLogger(TextCompiler.class);

    /** How old a catalog may be that something is held against. */
    private static final Duration FRESH = Duration.ofSeconds(3);

    /** Characters of a text that is large. */
    private static final int LARGE = 128 * 1024;

    private final Sources sources;
    private final ReentrantLock readingLarge = new ReentrantLock();

    public TextCompiler(Sources sources) {
        this.sources = sources;
    }

    /**
     * A module as compiled.
     *
     * @param plan null when a finding keeps it from being published
     */
    public record Compiled(ModuleText text, @Nullable ModulePlan plan, List<Finding> findings) {

        /**
         * The plan of a module that can be published.
         *
         * @throws IllegalArgumentException for one that cannot
         */
        public ModulePlan publishable() {
            if (plan == null) {
                throw new IllegalArgumentException("a module with errors cannot be published");
            }
            return plan;
        }
    }

    /** One of the compiler's ways. */
    private interface Way {
        Optional<ModulePlan> compile(ModuleDefinition module, Catalog catalog, Findings findings);
    }

    /**
     * Reads and compiles a text against its source.
     *
     * @throws Source.Unreachable when the source does not answer
     */
    public Compiled compile(ModuleText text) {
        return compile(text, Compiler::compile, UnaryOperator.identity(), FRESH);
    }

    /**
     * The same for a text that may take the place of what is live.
     *
     * @param published what operations are called in the reference of a live module, by its identity; empty for one that is not live
     * @param roles all that there will be
     */
    public Compiled compile(ModuleText text, Function<String, Map<String, String>> published, Collection<Role> roles) {
        Way replacing = (module, catalog, findings) -> Compiler.compile(
                module,
                catalog,
                findings,
                new Compiler.Known(
                        published.apply(module.name() + "/v" + module.version().major()), roles));
        return compile(text, replacing, UnaryOperator.identity(), Duration.ZERO);
    }

    /**
     * Reads and compiles a part of a text against its source.
     *
     * @param narrowing leaves what is to be compiled
     * @throws Source.Unreachable when the source does not answer
     */
    public Compiled compile(ModuleText text, UnaryOperator<ModuleDefinition> narrowing) {
        return compile(text, Compiler::compile, narrowing, FRESH);
    }

    /**
     * Before a text is refused, or its author troubled, for what an old catalog says, the catalog is read anew: once.
     *
     * @param age how old a catalog is at least that is read anew; zero where a wrong answer would keep something from being published
     */
    private Compiled compile(ModuleText text, Way way, UnaryOperator<ModuleDefinition> narrowing, Duration age) {
        Compiled compiled = compileOnce(text, way, narrowing);
        boolean held = compiled.findings().stream()
                .anyMatch(finding -> finding.code().comesFromContents() && finding.accepted() == null);
        return held && readAnew(text, age) ? compileOnce(text, way, narrowing) : compiled;
    }

    private boolean readAnew(ModuleText text, Duration age) {
        return ModuleReader.read(text, new Findings())
                .flatMap(definition -> sources.find(definition.source()))
                .map(source -> source.catalog().refreshed(age))
                .orElse(false);
    }

    /** While a text is read it takes some hundred times its room, so that of several large ones only one is read at a time. */
    private Optional<ModuleDefinition> read(ModuleText text, Findings findings) {
        if (text.files().getOrDefault(ModuleText.MAIN, "").length() <= LARGE) {
            return ModuleReader.read(text, findings);
        }
        readingLarge.lock();
        try {
            return ModuleReader.read(text, findings);
        } finally {
            readingLarge.unlock();
        }
    }

    private Compiled compileOnce(ModuleText text, Way way, UnaryOperator<ModuleDefinition> narrowing) {
        Findings findings = new Findings();
        Optional<ModuleDefinition> definition = read(text, findings).map(narrowing);
        ModulePlan plan = null;
        if (definition.isPresent()) {
            Optional<Source> source = sources.find(definition.get().source());
            if (source.isEmpty()) {
                unknownSource(definition.get(), findings);
            } else {
                plan = way.compile(definition.get(), source.get().catalog(), findings)
                        .orElse(null);
            }
        }
        return new Compiled(text, findings.errors() > 0 ? null : plan, findings.sorted());
    }

    private void unknownSource(ModuleDefinition definition, Findings findings) {
        findings.add(
                Code.SOURCE_UNKNOWN,
                definition.sourcePlace(),
                "This service has no source '" + definition.source() + "'."
                        + Nearest.hint(definition.source(), sources.names()),
                "Define it in the workspace.yaml this service reads, type './tidy source reload', or mend the name.");
    }

    /** Reads anew what some sources hold, however lately that was read; one that does not answer stays as it is known. */
    public void readAnew(Set<String> names) {
        names.forEach(name -> sources.find(name).ifPresent(source -> Promises.readAnew(source, source::refresh)));
    }

    /** The same where a source has had its rest since it was read last. */
    public void readAnewAfterRest(Set<String> names) {
        names.forEach(name -> sources.find(name)
                .ifPresent(source ->
                        Promises.readAnew(source, () -> source.catalog().refreshed(Duration.ZERO))));
    }

    /** What the source of a module holds of that which its text names, as it was read last; unknown for a text that cannot be read, or without a source here. */
    public CatalogFacts facts(ModuleText text) {
        return ModuleReader.read(text, new Findings())
                .flatMap(definition -> sources.find(definition.source()))
                .map(source -> Promises.facts(text, source))
                .orElse(CatalogFacts.UNKNOWN);
    }

    /**
     * What the catalog proposes for a text's parameters; nothing for a text that cannot be read, or whose source is not known.
     *
     * @throws Source.Unreachable when the source does not answer
     */
    public List<Proposal> propose(ModuleText text) {
        return ModuleReader.read(text, new Findings())
                .flatMap(definition -> sources.find(definition.source())
                        .map(Source::catalog)
                        .flatMap(catalog -> catalog.contents()
                                .map(contents -> Proposals.of(definition, contents, catalog.dialect()))))
                .orElse(List.of());
    }

    /**
     * Compiles several releases, a few at once because each waits for its source. A source that did not answer for one is not waited for
     * again for the others.
     */
    final class Releases {
        private final Set<String> silent = ConcurrentHashMap.newKeySet();
        private final Promises promises;

        Releases(Promises promises) {
            this.promises = promises;
        }

        /** What became of them, in the same order. */
        List<LiveModule> compile(List<Release> releases) {
            if (releases.size() < 2) {
                return releases.stream().map(this::compile).toList();
            }
            return AtOnce.map(releases, this::compile);
        }

        LiveModule compile(Release release) {
            Optional<ModuleDefinition> definition = ModuleReader.read(release.text(), new Findings());
            String source = definition.map(ModuleDefinition::source).orElse("");
            LiveModule.Said said =
                    definition.map(LiveModule.Said::of).orElseGet(() -> LiveModule.Said.unknown(release));
            if (silent.contains(source)) {
                return LiveModule.waiting(release, said);
            }
            LiveModule module = compiled(release, said, promises);
            if (module.isWaiting()) {
                silent.add(source);
            }
            return module;
        }
    }

    private LiveModule compiled(Release release, LiveModule.Said said, Promises promises) {
        try {
            Compiled compiled = compile(release.text(), Compiler::compileReleased, UnaryOperator.identity(), FRESH);
            ModulePlan plan = compiled.plan();
            return plan == null
                    ? unfit(release, said, compiled)
                    : LiveModule.ready(
                            release,
                            promises.of(release, plan),
                            plan,
                            sources.find(plan.source()).orElseThrow(),
                            compiled.findings());
        } catch (Source.Unreachable e) {
            LOG.warn("{} {} waits for its source: {}", release.module(), release.version(), e.getMessage());
            return LiveModule.waiting(release, said);
        } catch (RuntimeException e) {
            // one module that meets a fault of this program must not keep the others from being served
            LOG.error("{} {} cannot be compiled", release.module(), release.version(), e);
            return LiveModule.unfit(release, said, "Compiling it failed; the log of this node says why.", List.of());
        }
    }

    private static LiveModule unfit(Release release, LiveModule.Said said, Compiled compiled) {
        Finding first = compiled.findings().stream()
                .filter(Finding::isError)
                .findFirst()
                .orElseThrow();
        String trouble = first.place() + ": " + first.message() + " " + first.remedy();
        LOG.error("{} {} cannot be served: {}", release.module(), release.version(), trouble);
        return LiveModule.unfit(release, said, trouble, compiled.findings());
    }
}
