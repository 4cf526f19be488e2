/** What one caller may cost the others: bytes held in memory, and time spent waiting for slow readers and writers. */
@NullMarked
package tidybridge.service.capacity;

import org.jspecify.annotations.NullMarked;
