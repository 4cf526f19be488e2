/** This service as one of several over the same records: what it tells of itself, and what the others tell. */
@NullMarked
package tidybridge.service.node;

import org.jspecify.annotations.NullMarked;
