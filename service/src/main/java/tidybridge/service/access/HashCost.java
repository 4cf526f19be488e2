package tidybridge.service.access;

/**
 * What it costs to compute the hash of a password by Argon2id (RFC 9106), for this service and for whoever guesses.
 *
 * @param memoryKib the memory it takes
 * @param passes how often it goes through that memory
 */
public record HashCost(int memoryKib, int passes) {

    /** 16 MiB gone through twice: under a tenth of a second here, and a bounded number of guesses for whoever has the hashes. */
    public static final HashCost USUAL = new HashCost(1 << 14, 2);
}
