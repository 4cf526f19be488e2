package tidybridge.cli;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;
import tools.jackson.databind.JsonNode;

/**
 * A release as a service keeps it.
 *
 * @param label {@code moorings 1.2.0}
 * @param contract what it promises, as JSON; null for one from before contracts were kept
 * @param catalog what its source held, as JSON; null for one from before contracts were kept
 */
record ReleasedText(
        String label,
        String version,
        ModuleText text,
        @Nullable String contract,
        @Nullable String catalog) {

    private static final Pattern NAMED = Pattern.compile("([^/]+)/(v\\d{1,5}|\\d+\\.\\d+\\.\\d+)");

    /** True for {@code moorings/1.2.0} and {@code moorings/v1}. */
    static boolean isNamed(String text) {
        return NAMED.matcher(text).matches();
    }

    /**
     * Reads a release.
     *
     * @param named {@code moorings/1.2.0}, or {@code moorings/v1} for what is live
     */
    static ReleasedText read(String named, Service service) {
        Matcher parts = NAMED.matcher(named);
        if (!parts.matches()) {
            throw CommandFailure.mistyped("'" + named + "' is no release; write it as moorings/1.2.0 or moorings/v1.");
        }
        String name = Texts.encoded(parts.group(1));
        String version = parts.group(2).startsWith("v")
                ? service.desk("/desk/modules/" + name + "/" + parts.group(2))
                        .path("version")
                        .asString()
                : parts.group(2);
        JsonNode release = service.desk("/desk/releases/" + name + "/" + version);
        return new ReleasedText(
                parts.group(1) + " " + version,
                version,
                ComparedText.text(release.path("text")),
                json(release, "contract"),
                json(release, "catalog"));
    }

    private static @Nullable String json(JsonNode release, String name) {
        return release.has(name) ? release.path(name).toString() : null;
    }
}
