/** Makes the first text of a module from what there is: plain text that somebody goes on with, and notes on what could not be made. */
@NullMarked
package tidybridge.core.drafting;

import org.jspecify.annotations.NullMarked;
