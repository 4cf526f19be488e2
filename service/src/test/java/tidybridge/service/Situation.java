package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.BeforeEachCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import tidybridge.demo.TestDatabase;

/**
 * A module made for tests, published on the shared service, with the tables it stands on. It is kept as files below
 * {@code modules/NAME}: {@code module.yaml} and its statements; {@code schema.sql} makes the tables, {@code rows.sql} fills them before
 * each test, and {@code gone.sql} takes them away. Statements of those three are separated by empty lines.
 */
final class Situation implements BeforeAllCallback, BeforeEachCallback, AfterAllCallback {

    private static final Set<String> OF_TABLES = Set.of("schema.sql", "rows.sql", "gone.sql");

    private final String name;
    private final Path folder;
    private RunningService service;

    Situation(String name) {
        this.name = name;
        this.folder = Path.of("src", "test", "resources", "modules", name);
    }

    /** The service that all situations share; it is there once the class of tests begins. */
    RunningService service() {
        return service;
    }

    String yaml() throws IOException {
        return Files.readString(folder.resolve("module.yaml"));
    }

    Map<String, String> statements() throws IOException {
        Map<String, String> statements = new LinkedHashMap<>();
        try (var files = Files.newDirectoryStream(folder, "*.sql")) {
            for (Path file : files) {
                if (!OF_TABLES.contains(file.getFileName().toString())) {
                    statements.put(file.getFileName().toString(), Files.readString(file));
                }
            }
        }
        return statements;
    }

    @Override
    public void beforeAll(ExtensionContext context) throws Exception {
        service = SharedService.get();
        run("schema.sql");
        // the catalog of an earlier situation is still known
        assertThat(service().post("/desk/sources/waterways/refresh", Map.of()).statusCode())
                .isEqualTo(200);
        HttpResponse<String> published = service().publish(yaml(), statements());
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    @Override
    public void beforeEach(ExtensionContext context) throws Exception {
        run("rows.sql");
    }

    @Override
    public void afterAll(ExtensionContext context) throws Exception {
        Connections.assertComeBack(service());
        run("gone.sql");
    }

    private void run(String file) throws Exception {
        Path path = folder.resolve(file);
        if (Files.exists(path)) {
            TestDatabase.execute("waterways", Files.readString(path).strip().split("\\n\\s*\\n"));
        }
    }

    /** Calls the module; the headers are names and values in turn. */
    HttpResponse<String> send(String method, String path, String body, String... headers) throws Exception {
        return service().send(method, "/api/" + name + "/v1" + path, body, headers);
    }

    HttpResponse<String> get(String path) throws Exception {
        return send("GET", path, "");
    }

    /** The first value of a query. */
    static String one(String sql) throws Exception {
        return TestDatabase.column(sql).getFirst();
    }
}
