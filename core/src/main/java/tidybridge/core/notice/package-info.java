/** What is told to others: addresses, and how a call proves where it comes from. */
@NullMarked
package tidybridge.core.notice;

import org.jspecify.annotations.NullMarked;
