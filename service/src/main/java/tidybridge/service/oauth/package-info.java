/** Access tokens for client applications: OAuth 2.0 client credentials (RFC 6749, 4.4), revocation, introspection, metadata and keys. */
@NullMarked
package tidybridge.service.oauth;

import org.jspecify.annotations.NullMarked;
