/** What a database reports when a statement fails, and what callers are told of it. */
@NullMarked
package tidybridge.core.condition;

import org.jspecify.annotations.NullMarked;
