/** Clients of a module in languages with types, made from its OpenAPI document. */
@NullMarked
package tidybridge.core.typed;

import org.jspecify.annotations.NullMarked;
