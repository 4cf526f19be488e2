package tidybridge.service.live;

import java.lang.ref.SoftReference;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Supplier;
import java.util.zip.CRC32C;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.Contract;
import tidybridge.core.directory.ModuleIndex;
import tidybridge.core.reference.OpenApi;
import tidybridge.core.reference.ReferenceText;

/** The reference of one release, written of what it promises when it is first asked for, and then kept. Thread-safe. */
public final class ReferenceFiles {

    private final String basePath;
    private final Supplier<Contract> contract;
    private volatile @Nullable File json;
    private volatile @Nullable File yaml;
    private volatile @Nullable ModuleIndex index;
    private volatile SoftReference<ReferenceText> text = new SoftReference<>(null);

    /**
     * Writes the reference of a release.
     *
     * @param basePath where it is served
     */
    ReferenceFiles(String basePath, Supplier<Contract> contract) {
        this.basePath = basePath;
        this.contract = contract;
    }

    /** Where a document tells an address of the service: the words before it, and the path that follows. */
    private record Place(String before, String path) {}

    private Place[] places(String module, String token) {
        return new Place[] {new Place(module, basePath), new Place(token, OpenApi.TOKEN_PATH)};
    }

    /** A document, which tells the address of its service. */
    public static final class File {
        private final List<byte[]> pieces = new ArrayList<>();
        private final String mediaType;

        /**
         * Knows where the address stands.
         *
         * @param places in the order in which they stand in it
         */
        private File(byte[] bytes, String mediaType, Place... places) {
            this.mediaType = mediaType;
            String text = new String(bytes, StandardCharsets.ISO_8859_1);
            int from = 0;
            for (Place place : places) {
                int at = text.indexOf(place.before() + place.path(), from);
                if (at < 0) {
                    throw new IllegalStateException("a reference tells where its module is");
                }
                pieces.add(Arrays.copyOfRange(bytes, from, at + place.before().length()));
                from = at + place.before().length();
            }
            pieces.add(Arrays.copyOfRange(bytes, from, bytes.length));
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
            int length = address.length * (pieces.size() - 1);
            for (byte[] piece : pieces) {
                length += piece.length;
            }
            ByteBuffer whole = ByteBuffer.allocate(length);
            for (int i = 0; i < pieces.size(); i++) {
                if (i > 0) {
                    whole.put(address);
                }
                whole.put(pieces.get(i));
            }
            return whole.array();
        }

        /** A strong entity tag of some bytes. */
        public static String tag(byte[] bytes) {
            CRC32C sum = new CRC32C();
            sum.update(bytes);
            return "\"" + Long.toHexString(sum.getValue()) + "-" + bytes.length + "\"";
        }
    }

    /** The words that it is found by. */
    public ModuleIndex index() {
        ModuleIndex known = index;
        if (known == null) {
            known = ModuleIndex.of(contract.get());
            index = known;
        }
        return known;
    }

    /** The same in words, for pages; given up when memory is short. */
    public ReferenceText text() {
        ReferenceText known = text.get();
        if (known == null) {
            known = ReferenceText.of(contract.get());
            text = new SoftReference<>(known);
        }
        return known;
    }

    public File json() {
        File file = json;
        if (file == null) {
            file = new File(
                    OpenApi.json(contract.get()), "application/json", places("\"url\" : \"", "\"tokenUrl\" : \""));
            json = file;
        }
        return file;
    }

    public File yaml() {
        File file = yaml;
        if (file == null) {
            byte[] bytes = OpenApi.yaml(contract.get()).getBytes(StandardCharsets.UTF_8);
            file = new File(bytes, "application/yaml", places("- url: ", "tokenUrl: "));
            yaml = file;
        }
        return file;
    }
}
