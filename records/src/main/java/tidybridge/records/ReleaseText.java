package tidybridge.records;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Map;
import java.util.TreeMap;
import tidybridge.core.definition.ModuleText;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** A module's text as it is kept: JSON with the folder and the files in the order of their names, so that equal texts are equal bytes. */
final class ReleaseText {

    private static final JsonMapper JSON = JsonMapper.shared();

    private ReleaseText() {}

    /** How it stands in the record. */
    private record Kept(String folder, Map<String, String> files) {}

    static String write(ModuleText text) {
        return JSON.writeValueAsString(new Kept(text.folder(), new TreeMap<>(text.files())));
    }

    static ModuleText read(String content) {
        Kept kept = JSON.readValue(content, new TypeReference<>() {});
        return new ModuleText(kept.folder(), kept.files());
    }

    static String hash(String content) {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(content.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(digest);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has SHA-256", e);
        }
    }
}
