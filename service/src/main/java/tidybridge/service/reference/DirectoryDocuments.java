package tidybridge.service.reference;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** The directory for programs: as JSON, and as the API catalogue of RFC 9727. */
final class DirectoryDocuments {

    /** A set of links (RFC 9264) with the profile of API catalogues. */
    static final String LINKSET = "application/linkset+json;profile=\"https://www.rfc-editor.org/info/rfc9727\"";

    private static final JsonMapper JSON = JsonMapper.builder()
            .changeDefaultPropertyInclusion(usual -> usual.withValueInclusion(JsonInclude.Include.NON_NULL))
            .build();

    private DirectoryDocuments() {}

    private record Modules(List<ModuleEntry> modules) {}

    private record ModuleEntry(
            String module,
            String version,
            String title,
            @Nullable String about,
            @Nullable String owner,
            @Nullable String contact,
            List<String> tags,
            String state,
            @Nullable String ends,
            @Nullable String successor,
            String base,
            String reference,
            String openapi,
            @Nullable List<Place> found) {}

    private record Place(
            String kind,
            String operation,
            @Nullable String name,
            @Nullable String about,
            String reference) {}

    /** What was found, in the order of the page. */
    static byte[] json(List<ModuleCard> cards, String origin) {
        return JSON.writeValueAsBytes(
                new Modules(cards.stream().map(card -> entry(card, origin)).toList()));
    }

    private static ModuleEntry entry(ModuleCard card, String origin) {
        List<Place> found = card.hits().stream()
                .map(hit -> new Place(
                        hit.kind().name().toLowerCase(Locale.ROOT),
                        hit.label(),
                        hit.name(),
                        hit.about(),
                        origin + DirectoryLinks.hit(card.identity(), hit)))
                .toList();
        return new ModuleEntry(
                card.identity(),
                card.version(),
                card.title(),
                card.about(),
                card.owner(),
                card.contact(),
                card.tags(),
                card.state().label(),
                card.ends() == null ? null : card.ends().toString(),
                card.successor(),
                origin + "/api/" + card.identity(),
                origin + "/reference/" + card.identity(),
                origin + "/api/" + card.identity() + "/openapi.json",
                found.isEmpty() ? null : found);
    }

    private record Link(String href, String type) {}

    /** Each module with its descriptions for programs and for people. */
    static byte[] linkset(List<ModuleCard> cards, String origin) {
        List<Map<String, Object>> links = cards.stream()
                .map(card -> {
                    String base = origin + "/api/" + card.identity();
                    return Map.<String, Object>of(
                            "anchor",
                            base,
                            "service-desc",
                            List.of(
                                    new Link(base + "/openapi.json", "application/json"),
                                    new Link(base + "/openapi.yaml", "application/yaml")),
                            "service-doc",
                            List.of(new Link(origin + "/reference/" + card.identity(), "text/html")));
                })
                .toList();
        return JSON.writeValueAsBytes(Map.of("linkset", links));
    }
}
