/** Reading: from the text of a workspace to definitions, with findings for all that cannot be read. */
@NullMarked
package tidybridge.core.definition;

import org.jspecify.annotations.NullMarked;
