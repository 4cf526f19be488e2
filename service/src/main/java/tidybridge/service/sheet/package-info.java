/** Sheets that people send: kept in a file while they are read, and put into a table as a whole or not at all. */
@NullMarked
package tidybridge.service.sheet;

import org.jspecify.annotations.NullMarked;
