package tidybridge.service.access;

/**
 * What a call asks of its caller.
 *
 * @param module {@code moorings/v1}
 * @param open true when anybody may call
 */
public record Needs(String module, boolean open) {}
