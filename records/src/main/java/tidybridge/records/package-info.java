/** What the service remembers, in a MariaDB schema of its own: releases, which of them are live, and shared secrets. */
@NullMarked
package tidybridge.records;

import org.jspecify.annotations.NullMarked;
