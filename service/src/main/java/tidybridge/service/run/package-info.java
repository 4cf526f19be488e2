/**
 * Executes operations for whoever asks: the gateway, a trial, a rehearsal. Knows plans, sources and what became of a run, and nothing of
 * HTTP servers; which status an outcome is answered with is the gateway's business.
 */
@NullMarked
package tidybridge.service.run;

import org.jspecify.annotations.NullMarked;
