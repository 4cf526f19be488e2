/** Tells people outside what concerns them: by mail, and by signed calls of an address of theirs. */
@NullMarked
package tidybridge.service.notice;

import org.jspecify.annotations.NullMarked;
