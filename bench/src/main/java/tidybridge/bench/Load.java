package tidybridge.bench;

import java.io.IOException;
import java.io.InputStream;
import java.net.HttpURLConnection;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Puts load on a server: many small requests by wrk, or one long answer read to its end. */
final class Load {

    private static final Pattern RATE = Pattern.compile("Requests/sec:\\s+([0-9.]+)");
    private static final Pattern BAD = Pattern.compile("Non-2xx or 3xx responses: (\\d+)|Socket errors: (.+)");
    private static final int CONNECTIONS = 16;

    private final Path folder;
    private final int seconds;

    Load(Path folder, int seconds) {
        this.folder = folder;
        this.seconds = seconds;
    }

    /** Requests a second over 16 connections; the address may hold {@code %ID%} for a berth chosen anew for each request. */
    double requestsPerSecond(String address) throws IOException, InterruptedException {
        return requestsPerSecond("GET", address, "");
    }

    /** The same with a value of {@code Authorization}; an empty one is not sent. */
    double requestsPerSecond(String address, String authorization) throws IOException, InterruptedException {
        String fields = authorization.isEmpty() ? "nil" : "{['Authorization'] = '" + authorization + "'}";
        return rate(address, "GET", fields + ", nil");
    }

    /** The same with a method and a JSON body of one's own; an empty body is none. */
    double requestsPerSecond(String method, String address, String body) throws IOException, InterruptedException {
        return rate(
                address,
                method,
                body.isEmpty() ? "nil, nil" : "{['Content-Type'] = 'application/json'}, '" + body + "'");
    }

    private double rate(String address, String method, String sent) throws IOException, InterruptedException {
        URI uri = URI.create(address.replace("%ID%", "1"));
        Path script = folder.resolve("path.lua");
        String path = address.substring(address.indexOf('/', 8));
        String random = path.contains("%ID%")
                ? "'" + path.substring(0, path.indexOf("%ID%")) + "' .. math.random(1, 400)"
                : "'" + path + "'";
        Files.writeString(
                script, "request = function() return wrk.format('" + method + "', " + random + ", " + sent + ") end\n");
        Process process = new ProcessBuilder(
                        "wrk",
                        "-t1",
                        "--timeout",
                        "15s",
                        "-c" + CONNECTIONS,
                        "-d" + seconds + "s",
                        "-s",
                        script.toString(),
                        "http://" + uri.getHost() + ":" + uri.getPort())
                .redirectErrorStream(true)
                .start();
        String report = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        process.waitFor();
        Matcher bad = BAD.matcher(report);
        if (bad.find()) {
            throw new IllegalStateException("requests failed at " + address + ": " + bad.group());
        }
        Matcher rate = RATE.matcher(report);
        if (!rate.find()) {
            throw new IllegalStateException("wrk said: " + report);
        }
        return Double.parseDouble(rate.group(1));
    }

    /** How long one answer took. */
    record Transfer(double firstByteSeconds, double seconds, long bytes) {}

    static Transfer transfer(String address) throws IOException {
        long start = System.nanoTime();
        HttpURLConnection connection =
                (HttpURLConnection) URI.create(address).toURL().openConnection();
        byte[] buffer = new byte[64 * 1024];
        long bytes = 0;
        double first = 0;
        try (InputStream in = connection.getInputStream()) {
            for (int count = in.read(buffer); count >= 0; count = in.read(buffer)) {
                first = first == 0 ? (System.nanoTime() - start) / 1e9 : first;
                bytes += count;
            }
        }
        return new Transfer(first, (System.nanoTime() - start) / 1e9, bytes);
    }
}
