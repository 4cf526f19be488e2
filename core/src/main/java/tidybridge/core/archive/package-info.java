/** A whole record store as one file of open formats: a ZIP archive of JSON and text, each file with its digest. */
@NullMarked
package tidybridge.core.archive;

import org.jspecify.annotations.NullMarked;
