package tidybridge.service.oauth;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.oauth2.core.OAuth2AuthenticationException;
import org.springframework.security.oauth2.core.OAuth2ErrorCodes;
import org.springframework.security.web.authentication.AuthenticationFailureHandler;
import tidybridge.service.access.Challenge;

/** Answers an application that did not show who it is (RFC 6749, 5.2): always in the same words. */
final class WrongClient implements AuthenticationFailureHandler {

    @Override
    public void onAuthenticationFailure(
            HttpServletRequest request, HttpServletResponse response, AuthenticationException e) throws IOException {
        answer(
                response,
                e instanceof OAuth2AuthenticationException known
                        ? known.getError().getErrorCode()
                        : OAuth2ErrorCodes.INVALID_CLIENT);
    }

    void answer(HttpServletResponse response, String code) throws IOException {
        boolean client = code.equals(OAuth2ErrorCodes.INVALID_CLIENT);
        byte[] body = ("{\"error\":\"" + (client ? code : OAuth2ErrorCodes.INVALID_REQUEST) + "\"}")
                .getBytes(StandardCharsets.US_ASCII);
        response.setStatus(client ? HttpServletResponse.SC_UNAUTHORIZED : HttpServletResponse.SC_BAD_REQUEST);
        if (client) {
            response.setHeader("WWW-Authenticate", Challenge.BASIC);
        }
        response.setContentType("application/json");
        response.setContentLength(body.length);
        response.getOutputStream().write(body);
    }
}
