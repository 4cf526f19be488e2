/** What MariaDB does in its own way; the only package of the engine that names it. */
@NullMarked
package tidybridge.engine.mariadb;

import org.jspecify.annotations.NullMarked;
