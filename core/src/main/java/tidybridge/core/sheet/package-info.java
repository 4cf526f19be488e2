/** Sheets of rows that become tables: what their columns are, told from all rows, and what each cell is in a column. */
@NullMarked
package tidybridge.core.sheet;

import org.jspecify.annotations.NullMarked;
