package tidybridge.service.reference;

import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Needs;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.directory.Hit;
import tidybridge.core.directory.ModuleState;
import tidybridge.service.live.LiveModule;

/**
 * A module as the directory shows it.
 *
 * @param identity {@code moorings/v1}
 * @param stateWords the state for people, with the day it ends
 * @param access who may call it, in a few words
 * @param hits where the words are
 * @param more how many places there are besides
 */
public record ModuleCard(
        String identity,
        String version,
        String title,
        @Nullable String about,
        @Nullable String owner,
        @Nullable String contact,
        List<String> tags,
        ModuleState state,
        String stateWords,
        @Nullable LocalDate ends,
        @Nullable String successor,
        String access,
        List<Hit> hits,
        int more) {
    public ModuleCard {
        tags = List.copyOf(tags);
        hits = List.copyOf(hits);
    }

    static ModuleCard of(Directory.Entry entry) {
        LiveModule module = entry.module();
        LiveModule.Said said = module.said();
        Deprecation deprecated = said.deprecated();
        return new ModuleCard(
                module.identity(),
                module.release().version().toString(),
                said.title(),
                said.about(),
                said.listing().owner(),
                said.listing().contact(),
                said.listing().tags(),
                entry.state(),
                words(entry.state(), deprecated),
                deprecated == null ? null : deprecated.ends(),
                deprecated == null ? null : deprecated.successor(),
                access(entry),
                entry.found().hits(),
                entry.found().more());
    }

    private static String words(ModuleState state, @Nullable Deprecation deprecated) {
        return state == ModuleState.ENDING && deprecated != null ? "ends on " + deprecated.ends() : state.label();
    }

    private static String access(Directory.Entry entry) {
        List<Needs> needs = entry.module().needs();
        if (!needs.isEmpty() && needs.stream().allMatch(Needs::open)) {
            return "open to everybody";
        }
        if (needs.stream().anyMatch(Needs::open)) {
            return "partly open";
        }
        return entry.callable() ? "you may call it" : "needs a privilege";
    }
}
