/** Text with positions: the YAML tree every definition is read from, and places inside a file. */
@NullMarked
package tidybridge.core.text;

import org.jspecify.annotations.NullMarked;
