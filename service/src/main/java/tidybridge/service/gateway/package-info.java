/** Client teams' calls: one servlet that matches, binds, runs and streams by itself. */
@NullMarked
package tidybridge.service.gateway;

import org.jspecify.annotations.NullMarked;
