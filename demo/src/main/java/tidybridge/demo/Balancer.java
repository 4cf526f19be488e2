package tidybridge.demo;

import java.io.IOException;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * One address before several nodes: a generic HTTP proxy (Debian's package haproxy) that asks each for {@code /ready} and spreads requests over
 * those that say so. A request that no node has taken goes to another one; one that a node has taken is never repeated.
 */
public final class Balancer implements Part {

    private static final String PROGRAM = "haproxy";

    /** How often each node is asked; one that is silent twice gets no more requests. */
    private static final int ASKED_EVERY_MILLIS = 250;

    private static final int LOOKS = 200;
    private static final int LOOK_MILLIS = 25;

    private final Process process;
    private final Path log;
    private final int port;

    private Balancer(Process process, Path log, int port) {
        this.process = process;
        this.log = log;
        this.port = port;
    }

    /**
     * Starts it.
     *
     * @param folder takes its settings, its log and its process number
     * @param port where it listens, on loopback
     * @param nodes where the nodes listen
     */
    public static Balancer start(Path folder, int port, List<Integer> nodes) throws IOException {
        Path settings = folder.resolve("balancer.cfg");
        Files.writeString(settings, settings(port, nodes));
        Path log = OwnerOnly.file(folder.resolve("balancer.log"));
        Process process = new ProcessBuilder(
                        program(), "-db", "-f", settings.toAbsolutePath().toString())
                .redirectErrorStream(true)
                .redirectOutput(log.toFile())
                .start();
        Files.writeString(folder.resolve("balancer.pid"), String.valueOf(process.pid()));
        Balancer balancer = new Balancer(process, log, port);
        balancer.awaitListening();
        return balancer;
    }

    private void awaitListening() {
        for (int i = 0; i < LOOKS && process.isAlive(); i++) {
            try (Socket socket = new Socket("127.0.0.1", port)) {
                return;
            } catch (IOException e) {
                pause();
            }
        }
        close();
        throw new DemoFailure(ending());
    }

    private static void pause() {
        try {
            Thread.sleep(LOOK_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new DemoFailure("Interrupted while the proxy was starting.", e);
        }
    }

    private static String program() {
        Path usual = Path.of("/usr/sbin", PROGRAM);
        return Files.isExecutable(usual) ? usual.toString() : PROGRAM;
    }

    private static String settings(int port, List<Integer> nodes) {
        String servers = IntStream.range(0, nodes.size())
                .mapToObj(i -> "  server node-" + (i + 1) + " 127.0.0.1:" + nodes.get(i) + "\n")
                .collect(Collectors.joining());
        return """
                # Written anew at each start. Each request goes to a node over a connection of its own, so that none is sent into one that ends.
                defaults
                  mode http
                  maxconn 2000
                  timeout connect 1s
                  timeout client 1m
                  timeout server 1m
                  timeout check %1$dms
                  option http-server-close
                  option forwardfor
                  option redispatch 1
                  retries 3

                frontend bridge
                  bind 127.0.0.1:%2$d
                  http-request set-header X-Forwarded-Proto http
                  http-request set-header X-Forwarded-Host %%[req.hdr(host)]
                  http-request set-header X-Forwarded-Port %2$d
                  default_backend nodes

                backend nodes
                  balance roundrobin
                  option httpchk GET /ready
                  http-check expect ! rstatus ^5
                  default-server check inter %1$dms fall 2 rise 1
                %3$s""".formatted(ASKED_EVERY_MILLIS, port, servers);
    }

    /** Where it listens. */
    public String address() {
        return "http://127.0.0.1:" + port;
    }

    @Override
    public boolean isRunning() {
        return process.isAlive();
    }

    @Override
    public String ending() {
        return "The proxy before the nodes ended; " + log + " says why.";
    }

    @Override
    public void close() {
        process.destroy();
        try {
            if (!process.waitFor(5, TimeUnit.SECONDS)) {
                process.destroyForcibly();
            }
        } catch (InterruptedException e) {
            process.destroyForcibly();
            Thread.currentThread().interrupt();
        }
    }
}
