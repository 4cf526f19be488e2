package tidybridge.service.live;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
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

    /** A document, which tells the address of its service. */
    public static final class File {
        private final byte[] before;
        private final byte[] behind;
        private final String mediaType;

        /**
         * Knows where the address stands.
         *
         * @param address the words before it, and the path that follows
         */
        private File(byte[] bytes, String mediaType, String address, String path) {
            String text = new String(bytes, StandardCharsets.ISO_8859_1);
            int at = text.indexOf(address + path);
            if (at < 0) {
                throw new IllegalStateException("a reference tells where its module is");
            }
            this.before = Arrays.copyOf(bytes, at + address.length());
            this.behind = Arrays.copyOfRange(bytes, at + address.length(), bytes.length);
            this.mediaType = mediaType;
        }

        public String mediaType() {
            return mediaType;
        }

        /**
         * The document ready to be sent.
         *
         * @param origin where the service is for whoever asks, {@code https://bridge.marrowby.example}
         */
        public byte[] bytes(String origin) {
            byte[] address = origin.getBytes(StandardCharsets.UTF_8);
            byte[] whole = Arrays.copyOf(before, before.length + address.length + behind.length);
            System.arraycopy(address, 0, whole, before.length, address.length);
            System.arraycopy(behind, 0, whole, before.length + address.length, behind.length);
            return whole;
        }

        /** A strong entity tag of some bytes. */
        public static String tag(byte[] bytes) {
            CRC32C sum = new CRC32C();
            sum.update(bytes);
            return "\"" + Long.toHexString(sum.getValue()) + "-" + bytes.length + "\"";
        }
    }

    public File json() {
        File file = json;
        if (file == null) {
            file = new File(OpenApi.json(plan), "application/json", "\"url\" : \"", plan.basePath());
            json = file;
        }
        return file;
    }

    public File yaml() {
        File file = yaml;
        if (file == null) {
            byte[] bytes = OpenApi.yaml(plan).getBytes(StandardCharsets.UTF_8);
            file = new File(bytes, "application/yaml", "- url: ", plan.basePath());
            yaml = file;
        }
        return file;
    }
}
