/** Definition and catalog in, plan and findings out: the compilers and every check of a definition. */
@NullMarked
package tidybridge.core.compile;

import org.jspecify.annotations.NullMarked;
