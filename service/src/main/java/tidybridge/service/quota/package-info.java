/** How often, and how much at a time, callers may call. */
@NullMarked
package tidybridge.service.quota;

import org.jspecify.annotations.NullMarked;
