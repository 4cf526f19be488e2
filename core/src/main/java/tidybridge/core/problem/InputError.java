package tidybridge.core.problem;

/**
 * What is wrong with one input. Never holds the value that was sent.
 *
 * @param name the parameter's name as the caller writes it, or a JSON Pointer for a body
 * @param in {@code path}, {@code query}, {@code header} or {@code body}
 * @param detail one sentence that says what to send instead
 */
public record InputError(String name, String in, String detail) {}
