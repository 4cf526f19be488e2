/** What client teams see: the directory of modules, and the reference of each as pages that need no script. */
@NullMarked
package tidybridge.service.reference;

import org.jspecify.annotations.NullMarked;
