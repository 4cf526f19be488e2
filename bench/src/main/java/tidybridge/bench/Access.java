package tidybridge.bench;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tidybridge.cli.Tidy;
import tidybridge.demo.ServiceProcess;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What it costs to prove who calls: a keyed read with a key, a token and Basic, beside the same read that is open to everybody. */
final class Access {

    private static final String CLIENT = "bench";

    private final ServiceProcess service;
    private final Path home;
    private final Load load;
    private final Report report;

    Access(ServiceProcess service, Path home, Load load, Report report) {
        this.service = service;
        this.home = home;
        this.load = load;
        this.report = report;
    }

    void measure(int rounds, int warmUps) throws Exception {
        Map<String, String> ways = ways();
        String guarded = service.address() + "/api/bench/v1/guarded/%ID%";
        String open = service.address() + "/api/bench/v1/berths/%ID%";
        report.say("Warming up ...");
        for (int i = 0; i < warmUps; i++) {
            load.requestsPerSecond(open, "");
            for (String way : ways.values()) {
                load.requestsPerSecond(guarded, way);
            }
        }
        Map<String, List<Double>> rates = new LinkedHashMap<>();
        List<Double> opened = new ArrayList<>();
        for (int round = 1; round <= rounds; round++) {
            report.say("who calls, round " + round + " of " + rounds + " ...");
            opened.add(load.requestsPerSecond(open, ""));
            for (Map.Entry<String, String> way : ways.entrySet()) {
                rates.computeIfAbsent(way.getKey(), key -> new ArrayList<>())
                        .add(load.requestsPerSecond(guarded, way.getValue()));
            }
        }
        rates.forEach((way, rate) -> report.add(Result.of(
                "keyed read with " + way + " (floor: open)", rate, List.of(), opened, ">= 0.95 x the open one")));
    }

    /** Values of {@code Authorization} by what they are. */
    private Map<String, String> ways() throws IOException, InterruptedException {
        tidy("client", "set", CLIENT, "--owner", "bench", "--contact", "bench", "--give", "bench-reader");
        String name = "key-" + System.currentTimeMillis();
        String key = JsonMapper.shared()
                .readTree(tidy("client", "add-credential", CLIENT, name, "--json"))
                .path("key")
                .asString();
        String basic =
                "Basic " + Base64.getEncoder().encodeToString((CLIENT + ":" + key).getBytes(StandardCharsets.UTF_8));
        Map<String, String> ways = new LinkedHashMap<>();
        ways.put("a key", "Bearer " + key);
        ways.put("a token", "Bearer " + token(basic));
        ways.put("Basic", basic);
        return ways;
    }

    private String token(String basic) throws IOException, InterruptedException {
        try (HttpClient http = HttpClient.newHttpClient()) {
            HttpResponse<String> response = http.send(
                    HttpRequest.newBuilder(URI.create(service.address() + "/oauth/token"))
                            .header("Authorization", basic)
                            .header("Content-Type", "application/x-www-form-urlencoded")
                            .POST(HttpRequest.BodyPublishers.ofString("grant_type=client_credentials"))
                            .build(),
                    HttpResponse.BodyHandlers.ofString());
            JsonNode answer = JsonMapper.shared().readTree(response.body());
            return answer.path("access_token").asString();
        }
    }

    private String tidy(String... words) {
        List<String> all = new ArrayList<>(List.of(words));
        all.addAll(List.of("--service", service.address(), "--home", home.toString()));
        StringWriter output = new StringWriter();
        StringWriter errors = new StringWriter();
        int code = Tidy.run(all.toArray(String[]::new), new PrintWriter(output), new PrintWriter(errors));
        if (code != 0) {
            throw new IllegalStateException("who calls could not be prepared: " + errors);
        }
        return output.toString();
    }
}
