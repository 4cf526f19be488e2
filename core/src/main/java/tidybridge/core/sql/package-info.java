/** Scanning a statement: its kind, its bind parameters, and the parts that apply only when a parameter is given. */
@NullMarked
package tidybridge.core.sql;

import org.jspecify.annotations.NullMarked;
