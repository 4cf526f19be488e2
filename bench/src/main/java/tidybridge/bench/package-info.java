/** The yardstick: the same answers by the service, by what an engineer would write instead, and by plain JDBC. */
@NullMarked
package tidybridge.bench;

import org.jspecify.annotations.NullMarked;
