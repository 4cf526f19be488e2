/** Patterns for texts: the dialect of JSON Schema, found in time that grows linearly with the text. */
@NullMarked
package tidybridge.core.pattern;

import org.jspecify.annotations.NullMarked;
