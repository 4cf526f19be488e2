package tidybridge.service;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import tidybridge.core.definition.SecretReference;
import tidybridge.core.definition.SourceDefinition;
import tidybridge.core.definition.SourceReader;
import tidybridge.core.definition.Transport;
import tidybridge.core.definition.WorkspaceReader;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;
import tidybridge.engine.SourceSettings;
import tidybridge.records.RecordsSettings;
import tidybridge.service.gateway.Repeats;

/**
 * Everything that differs between environments: {@code tidy.home}, {@code tidy.records.*}, the workspace whose sources are used,
 * and {@code tidy.sources.NAME.*}, which says otherwise. Secrets are named here, never written.
 *
 * @param home holds the administrator's token; {@code .tidy} unless set
 * @param workspace the folder whose workspace.yaml defines the sources; null for none
 * @param environment the one of the workspace's environments this service runs in; null for none
 * @param records where the record store lies
 * @param names what this service is called by in addresses, beside those of loopback; unless set, by any name when it listens to other
 *     machines, and by none other when it does not
 * @param proxies the addresses of proxies whose forwarded fields are believed; none unless set
 * @param outcomesKept how long the answer to an Idempotency-Key is remembered; 24 hours unless set
 * @param sources what is said about a source here instead, or about one that the workspace does not define
 */
@ConfigurationProperties("tidy")
public record TidySettings(
        @Nullable Path home,
        @Nullable Path workspace,
        @Nullable String environment,
        @Nullable Database records,
        @Nullable List<String> names,
        @Nullable List<String> proxies,
        @Nullable Duration outcomesKept,
        @Nullable Map<String, SourceSetting> sources) {

    private static final Pattern HOST_NAME =
            Pattern.compile("[A-Za-z0-9]([A-Za-z0-9.-]{0,251}[A-Za-z0-9])?|\\[[0-9A-Fa-f:.]{2,45}]");

    private static final Pattern ADDRESS = Pattern.compile("[0-9]{1,3}(\\.[0-9]{1,3}){3}|[0-9A-Fa-f:]{2,39}");

    /**
     * The record store's database.
     *
     * @param secretEnv the environment variable that holds the password
     * @param secretFile a file that holds the password, in place of {@code secretEnv}
     * @param tls whether transport security is required; it is unless the host is this machine
     */
    public record Database(
            @Nullable String host,
            @Nullable Integer port,
            @Nullable String schema,
            @Nullable String user,
            @Nullable String secretEnv,
            @Nullable Path secretFile,
            @Nullable Boolean tls) {}

    /** A source, key by key as in workspace.yaml. */
    public record SourceSetting(
            @Nullable String host,
            @Nullable Integer port,
            @Nullable String schema,
            @Nullable String user,
            @Nullable String secretEnv,
            @Nullable Path secretFile,
            @Nullable Integer connections,
            @Nullable Duration patience,
            @Nullable Duration timeout,
            @Nullable Boolean readOnly,
            @Nullable Transport transport,
            @Nullable String certificate) {

        SourceDefinition definition(String name) {
            SecretReference secret = secretEnv != null
                    ? new SecretReference.Variable(secretEnv)
                    : secretFile == null
                            ? null
                            : new SecretReference.File(
                                    secretFile.toAbsolutePath().toString());
            return new SourceDefinition(
                    name,
                    Place.of("tidy.sources." + name),
                    null,
                    null,
                    host,
                    port,
                    schema,
                    user,
                    secret,
                    connections,
                    patience,
                    timeout,
                    readOnly,
                    transport,
                    certificate);
        }
    }

    /** Wrong settings; the message names all of them. */
    public static final class Unfit extends RuntimeException {
        Unfit(List<String> problems) {
            super("The settings cannot be used: " + String.join("; ", problems) + ".");
        }
    }

    /** Settings after all checks. */
    public record Checked(
            Path home,
            RecordsSettings records,
            List<String> names,
            List<String> proxies,
            Duration outcomesKept,
            List<SourceSettings> sources) {
        public Checked {
            names = List.copyOf(names);
            proxies = List.copyOf(proxies);
            sources = List.copyOf(sources);
        }
    }

    /**
     * Checks everything and reads the secrets.
     *
     * @throws Unfit with every problem in one message
     */
    public Checked checked() {
        List<String> problems = new ArrayList<>();
        RecordsSettings recordsSettings = records(problems);
        List<SourceSettings> sourceSettings = sources(problems);
        Duration kept = outcomesKept == null ? Repeats.USUALLY_KEPT : outcomesKept;
        if (kept.isNegative() || kept.isZero()) {
            problems.add("tidy.outcomes-kept must be above zero");
        }
        List<String> called = names == null ? List.of() : names;
        if (!called.stream().allMatch(name -> HOST_NAME.matcher(name).matches())) {
            problems.add("tidy.names must be host names without a port, such as bridge.marrowby.example");
        }
        List<String> believed = proxies == null ? List.of() : proxies;
        if (!believed.stream().allMatch(address -> ADDRESS.matcher(address).matches())) {
            problems.add("tidy.proxies must be addresses such as 10.0.0.5");
        }
        if (!problems.isEmpty()) {
            throw new Unfit(problems);
        }
        return new Checked(
                home == null ? Path.of(".tidy") : home, recordsSettings, called, believed, kept, sourceSettings);
    }

    /**
     * Reads the sources alone, anew from the workspace's file.
     *
     * @throws Unfit with every problem in one message
     */
    public List<SourceSettings> sourcesNow() {
        List<String> problems = new ArrayList<>();
        List<SourceSettings> read = sources(problems);
        if (!problems.isEmpty()) {
            throw new Unfit(problems);
        }
        return read;
    }

    private List<SourceSettings> sources(List<String> problems) {
        Map<String, SourceDefinition> all = new LinkedHashMap<>();
        Path base = workspace == null ? Path.of("") : workspace;
        if (workspace != null) {
            all.putAll(ofWorkspace(workspace, problems));
        }
        if (sources != null) {
            sources.forEach(
                    (name, setting) -> all.merge(name, setting.definition(name), (below, here) -> here.over(below)));
        }
        return all.values().stream()
                .map(source ->
                        new SourceSettingsReader(source, "tidy.sources." + source.name(), base, problems).settings())
                .toList();
    }

    private Map<String, SourceDefinition> ofWorkspace(Path folder, List<String> problems) {
        Findings findings = new Findings();
        try {
            SourceText text =
                    new SourceText(WorkspaceReader.MAIN, Files.readString(folder.resolve(WorkspaceReader.MAIN)));
            Map<String, SourceDefinition> read = SourceReader.read(text, environment, findings);
            findings.sorted().stream()
                    .filter(Finding::isError)
                    .forEach(finding -> problems.add(finding.place() + ": " + withoutStop(finding.message())));
            return read;
        } catch (IOException e) {
            problems.add("the file " + folder.resolve(WorkspaceReader.MAIN) + " (tidy.workspace) cannot be read");
            return Map.of();
        }
    }

    private static String withoutStop(String sentence) {
        return sentence.endsWith(".") ? sentence.substring(0, sentence.length() - 1) : sentence;
    }

    private RecordsSettings records(List<String> problems) {
        Database database = records == null ? new Database(null, null, null, null, null, null, null) : records;
        SecretReference secret = database.secretEnv() != null
                ? new SecretReference.Variable(database.secretEnv())
                : database.secretFile() == null
                        ? null
                        : new SecretReference.File(database.secretFile().toString());
        SourceDefinition definition = new SourceDefinition(
                "records",
                Place.of("tidy.records"),
                null,
                null,
                database.host(),
                database.port(),
                database.schema(),
                database.user(),
                secret,
                null,
                null,
                null,
                null,
                database.tls() == null ? null : database.tls() ? Transport.VERIFIED : Transport.PLAIN,
                null);
        SourceSettingsReader settled = new SourceSettingsReader(definition, "tidy.records", Path.of(""), problems);
        SourceSettings all = settled.settings();
        return new RecordsSettings(
                all.host(), all.port(), all.schema(), all.user(), all.secret(), all.transport() != Transport.PLAIN);
    }
}
