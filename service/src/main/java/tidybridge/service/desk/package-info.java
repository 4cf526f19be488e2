/** The management API, on loopback and for administrators. */
@NullMarked
package tidybridge.service.desk;

import org.jspecify.annotations.NullMarked;
