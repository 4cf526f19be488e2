/** What follows from a statement and a catalog together: what bind parameters meet, which rows are told apart, where a refusal points. */
@NullMarked
package tidybridge.core.infer;

import org.jspecify.annotations.NullMarked;
