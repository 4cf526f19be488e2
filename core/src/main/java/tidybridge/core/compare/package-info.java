/** What became of a promise between two releases, in words, and what that means for callers. */
@NullMarked
package tidybridge.core.compare;

import org.jspecify.annotations.NullMarked;
