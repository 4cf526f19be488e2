/** A module's operations as tools for assistants, as the Model Context Protocol (revision 2025-11-25) describes tools. */
@NullMarked
package tidybridge.core.assistant;

import org.jspecify.annotations.NullMarked;
