/** What a source says about statements: the fields an answer has, their types and nullability. */
@NullMarked
package tidybridge.core.catalog;

import org.jspecify.annotations.NullMarked;
