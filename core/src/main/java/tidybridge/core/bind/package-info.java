/** From the raw inputs of a request to checked, typed values for a statement. */
@NullMarked
package tidybridge.core.bind;

import org.jspecify.annotations.NullMarked;
