/** Privileges, the roles that hold them, and what an operation asks of its caller. */
@NullMarked
package tidybridge.core.access;

import org.jspecify.annotations.NullMarked;
