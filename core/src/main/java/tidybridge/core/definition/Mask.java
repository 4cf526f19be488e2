package tidybridge.core.definition;

import java.util.Optional;

/** How a field is made unreadable for callers without a privilege. NULL stays null. */
public sealed interface Mask {

    /** Nothing of it is shown: {@code ****}. */
    record Whole() implements Mask {}

    /** Only the last characters are shown: {@code ****4711}. */
    record Last(int characters) implements Mask {}

    /** Of an e-mail address, its first letter and its domain: {@code m****@marrowby.example}. */
    record Email() implements Mask {}

    /** A keyed hash: equal values stay equal, and nobody can tell which they are. */
    record Hash() implements Mask {}

    int MOST_CHARACTERS = 8;

    /** Reads {@code whole}, {@code last-4}, {@code email} or {@code hash}; empty for anything else. */
    static Optional<Mask> parse(String text) {
        return switch (text) {
            case "whole" -> Optional.of(new Whole());
            case "email" -> Optional.of(new Email());
            case "hash" -> Optional.of(new Hash());
            default ->
                text.matches("last-[1-" + MOST_CHARACTERS + "]")
                        ? Optional.of(new Last(text.charAt(text.length() - 1) - '0'))
                        : Optional.empty();
        };
    }
}
