/** What a release promises its callers, as data, and what became of a promise between two releases. */
@NullMarked
package tidybridge.core.contract;

import org.jspecify.annotations.NullMarked;
