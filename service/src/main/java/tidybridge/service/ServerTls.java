package tidybridge.service;

import java.nio.charset.StandardCharsets;
import org.apache.coyote.http2.Http2Protocol;
import org.apache.tomcat.util.net.TLSClientHelloExtractor;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.Http2;
import org.springframework.boot.web.server.Ssl;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.transport.LiveTls;

/** Has the HTTP server speak with transport security, and HTTP/2 (RFC 9113) beside HTTP/1.1. */
final class ServerTls {

    /** How many requests one connection may have open; the others wait on the caller's side. */
    private static final int MOST_STREAMS = 100;

    /** How many of them are answered at a time. */
    private static final int MOST_ANSWERED = 20;

    private ServerTls() {}

    static void apply(TomcatServletWebServerFactory factory, LiveTls tls) {
        Ssl ssl = Ssl.forBundle(LiveTls.NAME);
        ssl.setClientAuth(tls.asksForCertificates() ? Ssl.ClientAuth.WANT : Ssl.ClientAuth.NONE);
        factory.setSsl(ssl);
        factory.setSslBundles(tls.bundles());
        Http2 http2 = new Http2();
        http2.setEnabled(true);
        factory.setHttp2(http2);
        factory.addConnectorCustomizers(connector -> {
            for (var upgrade : connector.findUpgradeProtocols()) {
                if (upgrade instanceof Http2Protocol protocol) {
                    protocol.setMaxConcurrentStreams(MOST_STREAMS);
                    protocol.setMaxConcurrentStreamExecution(MOST_ANSWERED);
                }
            }
        });
        TLSClientHelloExtractor.USE_TLS_RESPONSE = plainRequest();
    }

    /** What a request without transport security is told on this port, as the bytes of a whole answer. */
    private static byte[] plainRequest() {
        Problem problem = Problem.of(
                ProblemKind.TLS_NEEDED,
                "This port speaks https only; repeat the call so, and have a credential replaced that came with this one.");
        String body = new String(problem.json(null), StandardCharsets.UTF_8);
        String head = "HTTP/1.1 " + problem.status() + " \r\nContent-Type: " + Problem.MEDIA_TYPE
                + "\r\nContent-Length: " + body.getBytes(StandardCharsets.UTF_8).length
                + "\r\nCache-Control: no-store\r\nConnection: close\r\n\r\n";
        return (head + body).getBytes(StandardCharsets.UTF_8);
    }
}
