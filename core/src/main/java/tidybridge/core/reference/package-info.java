/** The reference of a module, OpenAPI 3.1, made from its plan. */
@NullMarked
package tidybridge.core.reference;

import org.jspecify.annotations.NullMarked;
