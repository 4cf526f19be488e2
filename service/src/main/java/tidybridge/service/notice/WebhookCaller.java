package tidybridge.service.notice;

import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import org.apache.hc.client5.http.classic.methods.HttpPost;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.client5.http.impl.classic.HttpClients;
import org.apache.hc.client5.http.impl.io.ManagedHttpClientConnectionFactory;
import org.apache.hc.client5.http.impl.io.PoolingHttpClientConnectionManagerBuilder;
import org.apache.hc.core5.http.ClassicHttpResponse;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.HttpStatus;
import org.apache.hc.core5.http.config.Http1Config;
import org.apache.hc.core5.http.io.entity.ByteArrayEntity;
import org.apache.hc.core5.util.Timeout;
import tidybridge.core.notice.MessageSignature;
import tidybridge.records.Notice;

/**
 * Calls the address that somebody is told something at, with a signature (RFC 9421). What is answered counts by its status alone, and is not
 * read. Thread-safe.
 */
final class WebhookCaller implements AutoCloseable {

    /** What is sent is an event (CloudEvents 1.0, in its structured form). */
    static final String MEDIA_TYPE = "application/cloudevents+json; charset=utf-8";

    /** Names the key to whoever is called: they have one of this service's. */
    static final String KEY_ID = "tidy-bridge";

    private static final Timeout PATIENCE = Timeout.ofSeconds(5);
    private static final int WHOLE_PATIENCE_SECONDS = 15;
    private static final int LONGEST_LINE = 8_000;
    private static final int MOST_FIELDS = 100;

    private final Map<Reach, CloseableHttpClient> clients = new ConcurrentHashMap<>();
    private final List<String> inside;
    private final Clock clock;
    private final ScheduledExecutorService deadlines = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("webhook-deadlines").factory());

    WebhookCaller(List<String> inside, Clock clock) {
        this.inside = List.copyOf(inside);
        this.clock = clock;
    }

    /** Made when it is first used: with all that it takes of TLS it would make each start longer. */
    private CloseableHttpClient client(Reach reach) {
        return clients.computeIfAbsent(reach, this::newClient);
    }

    private CloseableHttpClient newClient(Reach reach) {
        Http1Config bounds = Http1Config.custom()
                .setMaxLineLength(LONGEST_LINE)
                .setMaxHeaderCount(MOST_FIELDS)
                .build();
        return HttpClients.custom()
                .setConnectionManager(PoolingHttpClientConnectionManagerBuilder.create()
                        .setDnsResolver(reach.resolver(inside))
                        .setConnectionFactory(ManagedHttpClientConnectionFactory.builder()
                                .http1Config(bounds)
                                .build())
                        .setDefaultConnectionConfig(ConnectionConfig.custom()
                                .setConnectTimeout(PATIENCE)
                                .setSocketTimeout(PATIENCE)
                                .build())
                        .build())
                .setDefaultRequestConfig(RequestConfig.custom()
                        .setResponseTimeout(PATIENCE)
                        .setRedirectsEnabled(false)
                        .build())
                .setUserAgent("Tidy-Bridge")
                .disableRedirectHandling()
                .disableAutomaticRetries()
                .disableCookieManagement()
                .disableAuthCaching()
                .disableContentCompression()
                // a connection is of no use to whoever is called next
                .setConnectionReuseStrategy((request, response, context) -> false)
                .build();
    }

    /** Calls. */
    void call(Notice notice, Reach reach, String key) throws NotTold {
        byte[] body = notice.content().getBytes(StandardCharsets.UTF_8);
        HttpPost request = new HttpPost(URI.create(notice.recipient()));
        request.setEntity(new ByteArrayEntity(body, ContentType.parse(MEDIA_TYPE)));
        MessageSignature.fields(
                        "POST",
                        notice.recipient(),
                        MEDIA_TYPE,
                        body,
                        key.getBytes(StandardCharsets.UTF_8),
                        KEY_ID,
                        clock.instant().getEpochSecond())
                .forEach(request::setHeader);
        ScheduledFuture<?> deadline = deadlines.schedule(request::abort, WHOLE_PATIENCE_SECONDS, TimeUnit.SECONDS);
        try (ClassicHttpResponse response = client(reach).executeOpen(null, request, null)) {
            int status = response.getCode();
            if (status / 100 != 2) {
                throw new NotTold("The address answered " + status + ".", status == HttpStatus.SC_GONE);
            }
        } catch (IOException e) {
            throw new NotTold("The address could not be called: " + reason(e), false);
        } finally {
            deadline.cancel(false);
        }
    }

    private static String reason(IOException e) {
        String message = e.getMessage();
        return e.getClass().getSimpleName() + (message == null ? "" : ", " + message.replaceAll("\\s+", " "));
    }

    @Override
    public void close() throws IOException {
        deadlines.shutdownNow();
        for (CloseableHttpClient client : clients.values()) {
            client.close();
        }
    }
}
