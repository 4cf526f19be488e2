/** Marrowby Waterways: a database of its own on loopback, its schema and made-up data, and the launcher that starts it all. */
@NullMarked
package tidybridge.demo;

import org.jspecify.annotations.NullMarked;
