/** What helps an author: proposed parameters, a statement looked at while it is written. */
@NullMarked
package tidybridge.core.advise;

import org.jspecify.annotations.NullMarked;
