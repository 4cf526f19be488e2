/** Who may do what: the administrator's token and console sessions. */
@NullMarked
package tidybridge.service.access;

import org.jspecify.annotations.NullMarked;
