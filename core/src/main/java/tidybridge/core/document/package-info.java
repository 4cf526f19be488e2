/** Documents of others that tell what operations or rows look like: OpenAPI documents, and samples of answers. */
@NullMarked
package tidybridge.core.document;

import org.jspecify.annotations.NullMarked;
