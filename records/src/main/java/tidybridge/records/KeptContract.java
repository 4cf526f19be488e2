package tidybridge.records;

import org.jspecify.annotations.Nullable;

/**
 * What is kept beside the text of a release. The store reads none of it.
 *
 * @param contract what it promises, as JSON
 * @param catalog what the source held of that which its statements name, as JSON
 * @param findings what compiling it found, as JSON
 * @param comparedWith the release that its contract was compared with; null for the first one
 * @param differences what came of that, as JSON; null for the first one
 * @param note what its author says of it; null for nothing
 * @param breaksBecause why it breaks what was promised under the same major version; null when it does not
 * @param cameFrom the release of another service that it was carried from; null for none
 */
public record KeptContract(
        String contract,
        String catalog,
        String findings,
        @Nullable Long comparedWith,
        @Nullable String differences,
        @Nullable String note,
        @Nullable String breaksBecause,
        @Nullable String cameFrom) {

    /** How long a note or a reason may be, in characters. */
    public static final int LONGEST_WORDS = 1_000;

    /** How long it may be where a release came from, in characters. */
    public static final int LONGEST_ORIGIN = 255;

    /** SHA-256 of the contract, in hexadecimal. */
    public String contractHash() {
        return hash(contract);
    }

    /** SHA-256 of a text, in hexadecimal. */
    public static String hash(String text) {
        return ReleaseText.hash(text);
    }

    /** A contract that was made later than its release, of which nothing else is known. */
    public static KeptContract later(String contract, String catalog) {
        return new KeptContract(contract, catalog, "[]", null, null, null, null, null);
    }
}
