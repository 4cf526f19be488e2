package tidybridge.core.definition;

import java.util.Comparator;
import java.util.Optional;

/** A module's version: major, minor and patch, as semantic versioning orders them. The major one is part of the URL. */
public record Version(int major, int minor, int patch) implements Comparable<Version> {

    private static final Comparator<Version> ORDER = Comparator.comparingInt(Version::major)
            .thenComparingInt(Version::minor)
            .thenComparingInt(Version::patch);

    /** Reads {@code 1.0.0}; empty for anything else. */
    public static Optional<Version> parse(String text) {
        if (!text.matches("(0|[1-9]\\d{0,4})(\\.(0|[1-9]\\d{0,4})){2}")) {
            return Optional.empty();
        }
        String[] parts = text.split("\\.");
        return Optional.of(
                new Version(Integer.parseInt(parts[0]), Integer.parseInt(parts[1]), Integer.parseInt(parts[2])));
    }

    @Override
    public int compareTo(Version other) {
        return ORDER.compare(this, other);
    }

    @Override
    public String toString() {
        return major + "." + minor + "." + patch;
    }
}
