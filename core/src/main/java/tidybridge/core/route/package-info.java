/** Matching a request path to what answers it, without allocating. */
@NullMarked
package tidybridge.core.route;

import org.jspecify.annotations.NullMarked;
