package tidybridge.records;

import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Role;

/**
 * A role that the store keeps.
 *
 * @param workspace the title of the workspace whose text defines it; null for one that was made here
 */
public record StoredRole(Role role, @Nullable String workspace) {}
