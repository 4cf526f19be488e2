/** What is live: the plans of published releases, swapped as a whole. */
@NullMarked
package tidybridge.service.live;

import org.jspecify.annotations.NullMarked;
