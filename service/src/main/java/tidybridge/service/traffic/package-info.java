/** What was called, by whom, how long it took, and how it ended. */
@NullMarked
package tidybridge.service.traffic;

import org.jspecify.annotations.NullMarked;
