/** Runs plans against databases: pools, describing statements, streaming rows, and telling apart what can go wrong. */
@NullMarked
package tidybridge.engine;

import org.jspecify.annotations.NullMarked;
