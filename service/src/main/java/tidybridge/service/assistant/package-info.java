/** Assistants' calls: a module's operations as tools, by the Model Context Protocol over streamable HTTP. */
@NullMarked
package tidybridge.service.assistant;

import org.jspecify.annotations.NullMarked;
