/** The command line: offline for {@code check}, otherwise a speaker of HTTP to the service. */
@NullMarked
package tidybridge.cli;

import org.jspecify.annotations.NullMarked;
