/** Transport security of the service itself. */
@NullMarked
package tidybridge.service.transport;

import org.jspecify.annotations.NullMarked;
