package tidybridge.service.gateway;

import org.jspecify.annotations.Nullable;
import tidybridge.service.run.StateCondition;

/**
 * A list of entity tags as conditional requests carry it (RFC 9110, 13.1.1 and 13.1.2).
 *
 * @param weak whether {@code W/} tags count, as they do for reads and never for changes
 */
record TagList(String list, boolean weak) implements StateCondition.Tags {

    @Override
    public boolean name(boolean found, @Nullable String tag) {
        if (list.strip().equals("*")) {
            return found;
        }
        for (String part : list.split(",", -1)) {
            String one = part.strip();
            String bare = weak && one.startsWith("W/") ? one.substring(2) : one;
            if (bare.equals(tag)) {
                return true;
            }
        }
        return false;
    }
}
