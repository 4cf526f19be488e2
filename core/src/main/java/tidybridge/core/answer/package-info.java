/** Writing rows as JSON without an object per row. */
@NullMarked
package tidybridge.core.answer;

import org.jspecify.annotations.NullMarked;
