/** What is noticed in a definition before it runs: code, severity, place, remedy. */
@NullMarked
package tidybridge.core.finding;

import org.jspecify.annotations.NullMarked;
