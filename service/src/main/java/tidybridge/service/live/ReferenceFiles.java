package tidybridge.service.live;

import java.nio.charset.StandardCharsets;
import java.util.zip.CRC32C;
import org.jspecify.annotations.Nullable;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.reference.OpenApi;

/** The reference of one plan, written when it is first asked for and then kept. Thread-safe. */
public final class ReferenceFiles {

    private final ModulePlan plan;
    private volatile @Nullable File json;
    private volatile @Nullable File yaml;

    ReferenceFiles(ModulePlan plan) {
        this.plan = plan;
    }

    /**
     * A document ready to be sent.
     *
     * @param tag a strong entity tag of its bytes
     */
    public record File(byte[] bytes, String mediaType, String tag) {}

    public File json() {
        File file = json;
        if (file == null) {
            file = file(OpenApi.json(plan), "application/json");
            json = file;
        }
        return file;
    }

    public File yaml() {
        File file = yaml;
        if (file == null) {
            file = file(OpenApi.yaml(plan).getBytes(StandardCharsets.UTF_8), "application/yaml");
            yaml = file;
        }
        return file;
    }

    private static File file(byte[] bytes, String mediaType) {
        CRC32C sum = new CRC32C();
        sum.update(bytes);
        return new File(bytes, mediaType, "\"" + Long.toHexString(sum.getValue()) + "-" + bytes.length + "\"");
    }
}
