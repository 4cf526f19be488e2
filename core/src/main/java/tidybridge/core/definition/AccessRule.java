package tidybridge.core.definition;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * What a module, a route or an operation says about who may call.
 *
 * @param opened what {@code public} says; null when it says nothing
 * @param needs the privileges of which one is enough; empty when nothing is said
 * @param place of {@code needs} or {@code public}, or of what says neither
 */
public record AccessRule(@Nullable Boolean opened, List<String> needs, Place place) {
    public AccessRule {
        needs = List.copyOf(needs);
    }

    /** True for {@code public: true}. */
    public boolean opens() {
        return opened != null && opened;
    }

    /** True for {@code public: false}: what is opened further out is closed here. */
    public boolean closes() {
        return opened != null && !opened;
    }
}
