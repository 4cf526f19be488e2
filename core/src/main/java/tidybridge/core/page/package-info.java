/** Continuing a collection after its last row: the opaque, tamper-evident {@code after}. */
@NullMarked
package tidybridge.core.page;

import org.jspecify.annotations.NullMarked;
