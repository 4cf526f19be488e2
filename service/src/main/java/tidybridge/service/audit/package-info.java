/** What is written into the audit trail that no change of access writes itself. */
@NullMarked
package tidybridge.service.audit;

import org.jspecify.annotations.NullMarked;
