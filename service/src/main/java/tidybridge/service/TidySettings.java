package tidybridge.service;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import tidybridge.core.access.AddressList;
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
import tidybridge.service.access.ProviderSettings;
import tidybridge.service.access.TrustedIssuer;
import tidybridge.service.gateway.Repeats;
import tidybridge.service.node.Departure;
import tidybridge.service.node.Nodes;
import tidybridge.service.notice.NoticeSettings;
import tidybridge.service.release.DriftWatch;
import tidybridge.service.transport.TlsFiles;

/**
 * Everything that differs between environments: {@code tidy.home}, {@code tidy.records.*}, the workspace whose sources are used,
 * and {@code tidy.sources.NAME.*}, which says otherwise. Secrets are named here, never written.
 *
 * @param home holds the administrator's token; {@code .tidy} unless set
 * @param workspace the folder whose workspace.yaml defines the sources; null for none
 * @param environment the one of the workspace's environments this service runs in; null for none
 * @param records where the record store lies
 * @param tls where the service's own certificate lies; it speaks plain HTTP unless set
 * @param plainSecrets whether credentials are taken from other machines over connections that others can read; they are not unless set
 * @param names what this service is called by in addresses, beside those of loopback; unless set, by any name when it listens to other
 *     machines, and by none other when it does not
 * @param proxies the addresses of proxies whose forwarded fields are believed; none unless set
 * @param deskFrom the networks that the management API may be called from over transport security; this machine only unless set
 * @param issuer the service's address from outside, as access tokens name it; the one it is called by unless set
 * @param provider an outside provider that people sign in with; none unless set
 * @param issuers those outside whose tokens are taken, by names of the owner's own
 * @param outcomesKept how long the answer to an Idempotency-Key is remembered; 24 hours unless set
 * @param examples whether examples are called when something is published, for its reference; they are unless it is false
 * @param driftEvery how often it is looked whether databases still fit what is live; every 15 minutes unless set, 0 for never
 * @param node what this service is called among several over the same records; its host and port unless set
 * @param signUp how client teams come to be; by invitation unless set
 * @param mail the server that mail is given to; none unless set
 * @param notices whom the service tells something
 * @param leaveNotice how long it goes on answering after it was told to end, while {@code /ready} says so; not at all unless set
 * @param sources what is said about a source here instead, or about one that the workspace does not define
 */
@ConfigurationProperties("tidy")
public record TidySettings(
        @Nullable Path home,
        @Nullable Path workspace,
        @Nullable String environment,
        @Nullable RecordsSetting records,
        @Nullable Tls tls,
        @Nullable Boolean plainSecrets,
        @Nullable List<String> names,
        @Nullable List<String> proxies,
        @Nullable List<String> deskFrom,
        @Nullable String issuer,
        @Nullable ProviderSetting provider,
        @Nullable Map<String, IssuerSetting> issuers,
        @Nullable Duration outcomesKept,
        @Nullable Boolean examples,
        @Nullable Duration driftEvery,
        @Nullable String node,
        @Nullable Duration leaveNotice,
        @Nullable SignUp signUp,
        @Nullable MailSetting mail,
        @Nullable NoticeSetting notices,
        @Nullable Map<String, SourceSetting> sources) {

    private static final Pattern HOST_NAME =
            Pattern.compile("[A-Za-z0-9]([A-Za-z0-9.-]{0,251}[A-Za-z0-9])?|\\[[0-9A-Fa-f:.]{2,45}]");

    private static final Pattern ISSUER = Pattern.compile("https?://[A-Za-z0-9.-]{1,253}(:[0-9]{1,5})?");

    private static final Pattern ADDRESS = Pattern.compile("[0-9]{1,3}(\\.[0-9]{1,3}){3}|[0-9A-Fa-f:]{2,39}");

    /**
     * The service's own certificate, in PEM.
     *
     * @param certificate the file of the certificate, and behind it those of its issuers
     * @param key the file of its private key
     * @param clientAuthorities the file of those whose certificates callers may show; null when callers show none
     */
    public record Tls(
            @Nullable Path certificate,
            @Nullable Path key,
            @Nullable Path clientAuthorities) {

        @Nullable
        TlsFiles settled(List<String> problems) {
            if (certificate == null || key == null) {
                problems.add("tidy.tls.certificate and tidy.tls.key must both lead to a file in PEM");
                return null;
            }
            return new TlsFiles(certificate, key, clientAuthorities);
        }
    }

    private List<TrustedIssuer> trusted(List<String> problems) {
        Map<String, IssuerSetting> all = issuers == null ? Map.of() : issuers;
        return all.entrySet().stream()
                .map(entry -> entry.getValue().settled(entry.getKey(), problems))
                .toList();
    }

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
            @Nullable Duration allTimeout,
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
                    allTimeout,
                    readOnly,
                    transport,
                    certificate);
        }
    }

    /** Wrong settings; the message names all of them. */
    public static final class Unfit extends RuntimeException {
        Unfit(TlsFiles.Unfit problem) {
            this(List.of(String.valueOf(problem.getMessage())));
        }

        Unfit(List<String> problems) {
            super("The settings cannot be used: " + String.join("; ", problems) + ".");
        }
    }

    /** Settings after all checks. */
    public record Checked(
            Path home,
            RecordsSettings records,
            @Nullable TlsFiles tls,
            boolean plainSecrets,
            List<String> names,
            List<String> proxies,
            List<String> deskFrom,
            @Nullable String issuer,
            @Nullable ProviderSettings provider,
            List<TrustedIssuer> issuers,
            Duration outcomesKept,
            boolean examples,
            Duration driftEvery,
            @Nullable String node,
            Duration leaveNotice,
            SignUp signUp,
            NoticeSettings notices,
            List<SourceSettings> sources) {
        public Checked {
            names = List.copyOf(names);
            proxies = List.copyOf(proxies);
            deskFrom = List.copyOf(deskFrom);
            issuers = List.copyOf(issuers);
            sources = List.copyOf(sources);
        }

        /** Everything but the sources, and no secret, for whoever wants to know what changed. */
        Map<String, @Nullable Object> described() {
            Map<String, @Nullable Object> all = new LinkedHashMap<>();
            all.put("home", home.toString());
            all.put("records", records.toString());
            all.put(
                    "recordsOwner",
                    records.owner() == null ? null : records.owner().toString());
            all.put("tls", tls == null ? null : tls.toString());
            all.put("plainSecrets", plainSecrets);
            all.put("names", names);
            all.put("proxies", proxies);
            all.put("deskFrom", deskFrom);
            all.put("issuer", issuer);
            all.put(
                    "provider",
                    provider == null
                            ? null
                            : List.of(
                                    provider.issuer().toString(), provider.client(), new TreeMap<>(provider.groups())));
            all.put(
                    "issuers",
                    issuers.stream()
                            .map(one -> List.of(
                                    one.name(),
                                    one.issuer(),
                                    one.audience(),
                                    one.keys().toString(),
                                    new TreeMap<>(one.roles())))
                            .toList());
            all.put("outcomesKept", outcomesKept.toString());
            all.put("examples", examples);
            all.put("driftEvery", driftEvery.toString());
            all.put("node", node);
            all.put("leaveNotice", leaveNotice.toString());
            all.put("signUp", signUp.label());
            all.put("notices", notices.toString());
            return all;
        }
    }

    /**
     * Checks everything and reads the secrets.
     *
     * @throws Unfit with every problem in one message
     */
    public Checked checked() {
        List<String> problems = new ArrayList<>();
        RecordsSettings recordsSettings = (records == null ? RecordsSetting.UNSAID : records).settled(problems);
        List<SourceSettings> sourceSettings = sources(problems);
        Duration kept = outcomesKept == null ? Repeats.USUALLY_KEPT : outcomesKept;
        if (kept.isNegative() || kept.isZero()) {
            problems.add("tidy.outcomes-kept must be above zero");
        }
        Duration notice = leaveNotice == null ? Departure.USUAL_NOTICE : leaveNotice;
        if (notice.isNegative() || notice.compareTo(Departure.LONGEST_NOTICE) > 0) {
            problems.add("tidy.leave-notice must be from 0 to " + Departure.LONGEST_NOTICE.toMinutes() + "m");
        }
        if (node != null && (node.isBlank() || node.length() > Nodes.LONGEST_NAME)) {
            problems.add("tidy.node must have 1 to " + Nodes.LONGEST_NAME + " characters");
        }
        Duration drift = driftEvery == null ? DriftWatch.USUALLY_EVERY : driftEvery;
        if (drift.isNegative() || !drift.isZero() && drift.compareTo(DriftWatch.LEAST_EVERY) < 0) {
            problems.add("tidy.drift-every must be 0, or at least " + DriftWatch.LEAST_EVERY.toSeconds() + "s");
        }
        List<String> called = names == null ? List.of() : names;
        if (!called.stream().allMatch(name -> HOST_NAME.matcher(name).matches())) {
            problems.add("tidy.names must be host names without a port, such as bridge.marrowby.example");
        }
        List<String> believed = proxies == null ? List.of() : proxies;
        if (!believed.stream().allMatch(address -> ADDRESS.matcher(address).matches())) {
            problems.add("tidy.proxies must be addresses such as 10.0.0.5");
        }
        List<String> desk = deskFrom == null ? List.of() : deskFrom;
        if (!desk.stream().allMatch(AddressList::isNetwork)) {
            problems.add("tidy.desk-from must be networks such as 10.0.0.0/8");
        }
        if (issuer != null && !ISSUER.matcher(issuer).matches()) {
            problems.add("tidy.issuer must be an address without a path, such as https://bridge.marrowby.example");
        }
        ProviderSettings settled = provider == null ? null : provider.settled(problems);
        List<TrustedIssuer> trusted = trusted(problems);
        TlsFiles files = tls == null ? null : tls.settled(problems);
        NoticeSettings told = (notices == null ? NoticeSetting.UNSAID : notices)
                .settled(mail == null ? null : mail.settled(problems), problems);
        if (!problems.isEmpty()) {
            throw new Unfit(problems);
        }
        return new Checked(
                home == null ? Path.of(".tidy") : home,
                recordsSettings,
                files,
                Boolean.TRUE.equals(plainSecrets),
                called,
                believed,
                desk,
                issuer,
                settled,
                trusted,
                kept,
                !Boolean.FALSE.equals(examples),
                drift,
                node,
                notice,
                signUp == null ? SignUp.BY_INVITATION : signUp,
                told,
                sourceSettings);
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
}
