/** The service: wires core, engine and records together and listens. */
@NullMarked
package tidybridge.service;

import org.jspecify.annotations.NullMarked;
