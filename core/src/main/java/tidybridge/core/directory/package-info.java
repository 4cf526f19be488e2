/** What can be found of modules before they are called: words are searched in what their releases promise. */
@NullMarked
package tidybridge.core.directory;

import org.jspecify.annotations.NullMarked;
