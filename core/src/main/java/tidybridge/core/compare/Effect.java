package tidybridge.core.compare;

import java.util.Locale;
import tidybridge.core.definition.Version;

/** What a difference means for a caller who relies on the earlier release, the gravest first. */
public enum Effect {
    /** Some caller who did nothing wrong is refused, or gets what the earlier reference did not say. */
    BREAKING {
        @Override
        public Version after(Version earlier) {
            return new Version(earlier.major() + 1, 0, 0);
        }
    },
    /** Every request that was right stays right, and every answer fits what the earlier reference said. */
    SAFE {
        @Override
        public Version after(Version earlier) {
            return new Version(earlier.major(), earlier.minor() + 1, 0);
        }
    },
    /** No program can tell. */
    INTERNAL {
        @Override
        public Version after(Version earlier) {
            return new Version(earlier.major(), earlier.minor(), earlier.patch() + 1);
        }
    };

    /** The word for it. */
    public String label() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The least version that follows an earlier one after such a difference, by semantic versioning. */
    public abstract Version after(Version earlier);
}
