/** What collectors of metrics read of this node. */
@NullMarked
package tidybridge.service.metrics;

import org.jspecify.annotations.NullMarked;
