/** Errors as RFC 9457 problem documents. */
@NullMarked
package tidybridge.core.problem;

import org.jspecify.annotations.NullMarked;
