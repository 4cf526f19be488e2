/** Calls of operations as code of several languages, to be copied. */
@NullMarked
package tidybridge.core.sample;

import org.jspecify.annotations.NullMarked;
