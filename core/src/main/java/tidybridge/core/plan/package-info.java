/** Compiling: from a definition and a catalog to an immutable plan that requests only read. */
@NullMarked
package tidybridge.core.plan;

import org.jspecify.annotations.NullMarked;
