/** Trying operations of a text that is not published. */
@NullMarked
package tidybridge.service.trial;

import org.jspecify.annotations.NullMarked;
