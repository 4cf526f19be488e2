/** Publishing: what a text would mean for callers, what is kept of it, and what may not be published. */
@NullMarked
package tidybridge.service.release;

import org.jspecify.annotations.NullMarked;
