package tidybridge.core.access;

import org.jspecify.annotations.Nullable;

/**
 * From where, how and how often a module may be called, whoever calls. Immutable and thread-safe.
 *
 * @param addresses where its callers may call from
 * @param tls true when it is called over transport security only
 * @param crossOrigin which pages of other origins may call; null for none
 * @param quota how often its operations may be called, all of them together; null for as often as anybody likes
 */
public record Admission(
        AddressList addresses,
        boolean tls,
        @Nullable CrossOrigin crossOrigin,
        @Nullable Quota quota) {

    /** For a module that says nothing of all this. */
    public static final Admission USUAL = new Admission(AddressList.EVERYWHERE, false, null, null);
}
