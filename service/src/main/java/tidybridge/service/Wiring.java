package tidybridge.service;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.security.SecureRandom;
import java.time.Clock;
import java.util.HexFormat;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.boot.web.server.autoconfigure.ServerProperties;
import org.springframework.context.ApplicationListener;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Fallback;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.page.Continuation;
import tidybridge.engine.Sources;
import tidybridge.records.ClientApplication;
import tidybridge.records.Records;
import tidybridge.service.access.AccessChanges;
import tidybridge.service.access.AccessTokens;
import tidybridge.service.access.Administrator;
import tidybridge.service.access.ClientChanges;
import tidybridge.service.access.Credentials;
import tidybridge.service.access.DeskReach;
import tidybridge.service.access.DeskRefusals;
import tidybridge.service.access.HashCost;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.OutsideTokens;
import tidybridge.service.access.ProviderSettings;
import tidybridge.service.access.ProviderSignIn;
import tidybridge.service.access.RequestChanges;
import tidybridge.service.access.SignIns;
import tidybridge.service.access.TeamChanges;
import tidybridge.service.audit.AuditNotes;
import tidybridge.service.audit.RefusedDeskCalls;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.gateway.Repeats;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.metrics.Metrics;
import tidybridge.service.node.Departure;
import tidybridge.service.node.Nodes;
import tidybridge.service.notice.NoticeSender;
import tidybridge.service.notice.Notices;
import tidybridge.service.notice.TeamNews;
import tidybridge.service.quota.Quotas;
import tidybridge.service.release.DriftWatch;
import tidybridge.service.release.Examples;
import tidybridge.service.release.Publishing;
import tidybridge.service.traffic.Refusals;
import tidybridge.service.transport.LiveTls;
import tidybridge.service.transport.TlsFiles;
import tidybridge.service.trial.Trials;

/** Puts the parts together. */
@Configuration(proxyBeanMethods = false)
class Wiring {

    private static final int KEY_BYTES = 32;

    @Bean
    TidySettings.Checked settings(TidySettings settings) {
        return settings.checked();
    }

    @Bean(destroyMethod = "close")
    Records records(TidySettings.Checked settings) {
        return Records.open(settings.records());
    }

    @Bean(destroyMethod = "close")
    Sources sources(TidySettings.Checked settings) {
        return new Sources(settings.sources());
    }

    @Bean
    Clock clock() {
        return Clock.systemUTC();
    }

    /** Absent while the service speaks plain HTTP. */
    @Bean(destroyMethod = "close")
    @Nullable
    LiveTls tls(TidySettings.Checked settings, Clock clock) {
        try {
            return settings.tls() == null ? null : LiveTls.load(settings.tls(), clock);
        } catch (TlsFiles.Unfit e) {
            throw new TidySettings.Unfit(e);
        }
    }

    @Bean
    SecureRandom random() {
        return new SecureRandom();
    }

    @Bean
    Administrator administrator(TidySettings.Checked settings, SecureRandom random) {
        return Administrator.in(settings.home(), random);
    }

    @Bean(destroyMethod = "close")
    LiveAccess liveAccess(Records records, Clock clock) {
        return LiveAccess.load(records.access(), clock);
    }

    @Bean
    AccessChanges accessChanges(LiveAccess access, Clock clock) {
        return new AccessChanges(access, clock);
    }

    @Bean
    ClientChanges clientChanges(LiveAccess access, Clock clock, SecureRandom random) {
        return new ClientChanges(access, clock, random);
    }

    @Bean
    DeskReach deskReach(TidySettings.Checked settings) {
        return new DeskReach(settings.deskFrom());
    }

    @Bean
    SignIns signIns(
            LiveAccess access, DeskReach reach, HashCost cost, Records records, Clock clock, SecureRandom random) {
        return new SignIns(access, reach, cost, clock, random, key(records, random, "device-key"));
    }

    @Bean
    @Fallback
    HashCost hashCost() {
        return HashCost.USUAL;
    }

    @Bean
    TeamChanges teamChanges(
            LiveAccess access,
            Records records,
            ClientChanges clients,
            SignIns signIns,
            Clock clock,
            SecureRandom random) {
        return new TeamChanges(access, records.teams(), clients, signIns, clock, random);
    }

    @Bean
    RequestChanges requestChanges(
            LiveAccess access, Records records, TeamChanges teams, Clock clock, SecureRandom random) {
        return new RequestChanges(access, records.requests(), teams, clock, random);
    }

    @Bean
    Notices notices(Records records, TidySettings.Checked settings, Clock clock) {
        return new Notices(records.notices(), settings.notices(), settings.issuer(), clock);
    }

    @Bean
    TeamNews teamNews(LiveModules modules, LiveAccess access, Notices notices) {
        return new TeamNews(modules, access, notices);
    }

    @Bean(destroyMethod = "close")
    NoticeSender noticeSender(Records records, TidySettings.Checked settings, LiveAccess access, Clock clock) {
        return new NoticeSender(
                records.notices(), settings.notices(), name -> access.now().team(name), clock);
    }

    /** Absent without a provider. */
    @Bean
    @Nullable
    ProviderSignIn provider(TidySettings.Checked settings, LiveAccess access, SignIns signIns, Clock clock) {
        ProviderSettings provider = settings.provider();
        return provider == null ? null : new ProviderSignIn(provider, access, signIns, clock);
    }

    @Bean
    Continuation continuation(Records records, SecureRandom random) {
        return new Continuation(key(records, random, "continuation-key"));
    }

    @Bean
    MaskKey maskKey(Records records, SecureRandom random) {
        return new MaskKey(key(records, random, "mask-key"));
    }

    /** A key of the service's own, made at its first start and then kept by the records. */
    private static byte[] key(Records records, SecureRandom random, String name) {
        String key = records.secret(name, () -> {
            byte[] bytes = new byte[KEY_BYTES];
            random.nextBytes(bytes);
            return HexFormat.of().formatHex(bytes);
        });
        return HexFormat.of().parseHex(key);
    }

    @Bean(destroyMethod = "close")
    LiveModules liveModules(
            Records records,
            Sources sources,
            TextCompiler compiler,
            Continuation continuation,
            MaskKey maskKey,
            Clock clock) {
        return LiveModules.load(records, sources, compiler, continuation, maskKey, clock);
    }

    /** Compiling would hold up everything else that the start consists of. */
    @Bean
    ApplicationListener<ApplicationReadyEvent> compilingOnceStarted(LiveModules modules) {
        return ready -> modules.compileRest();
    }

    @Bean
    Publishing publishing(LiveModules modules, TextCompiler compiler, Records records) {
        return new Publishing(modules, compiler, records);
    }

    @Bean(destroyMethod = "close")
    Examples examples(LiveModules modules, Records records, Clock clock, TidySettings.Checked settings) {
        return new Examples(modules, records, clock, settings.examples());
    }

    @Bean(destroyMethod = "close")
    DriftWatch driftWatch(
            LiveModules modules,
            TextCompiler compiler,
            Records records,
            Examples examples,
            Clock clock,
            TidySettings.Checked settings) {
        return new DriftWatch(modules, compiler, records, examples, clock, settings.driftEvery());
    }

    @Bean(destroyMethod = "close")
    Metrics metrics(LiveModules modules, DriftWatch drift, Nodes nodes) {
        return new Metrics(modules, drift, nodes);
    }

    @Bean
    Departure departure(TidySettings.Checked settings) {
        return new Departure(settings.leaveNotice());
    }

    @Bean(destroyMethod = "close")
    Nodes nodes(
            Records records,
            LiveModules modules,
            Departure departure,
            TidySettings.Checked settings,
            ServerProperties server,
            SecureRandom random,
            Clock clock) {
        String name = settings.node() == null ? hostName() + ":" + server.getPort() : settings.node();
        return new Nodes(records, modules, departure, name, random, clock);
    }

    @Bean
    TextCompiler textCompiler(Sources sources) {
        return new TextCompiler(sources);
    }

    @Bean
    AccessTokens accessTokens(LiveAccess access, TidySettings.Checked settings, Clock clock) {
        return new AccessTokens(access, settings.issuer(), clock);
    }

    @Bean
    OutsideTokens outsideTokens(LiveAccess access, TidySettings.Checked settings, Clock clock) {
        return new OutsideTokens(settings.issuers(), access, clock);
    }

    @Bean
    Credentials credentials(
            Administrator administrator, LiveAccess access, AccessTokens tokens, OutsideTokens outside, Clock clock) {
        return new Credentials(administrator, access, tokens, outside, clock);
    }

    @Bean(destroyMethod = "close")
    @Fallback
    Refusals refusals(Records records, Clock clock) {
        return new Refusals(records.refusedCalls(), clock);
    }

    @Bean
    DeskRefusals deskRefusals(Records records, Refusals refusals, Clock clock) {
        return new RefusedDeskCalls(records.audit(), refusals, clock);
    }

    /** What was changed in files and in the environment is noticed at each start. */
    @Bean(destroyMethod = "close")
    AuditNotes auditNotes(Records records, TidySettings.Checked settings, Clock clock) {
        AuditNotes notes = new AuditNotes(records.audit(), clock);
        notes.settings(hostName(), settings.described());
        notes.sources(settings.sources(), AuditNotes.NOBODY, null);
        notes.warn();
        return notes;
    }

    private static String hostName() {
        try {
            return InetAddress.getLocalHost().getHostName();
        } catch (UnknownHostException e) {
            return "a host without a name";
        }
    }

    @Bean(destroyMethod = "close")
    Repeats repeats(Records records, TidySettings.Checked settings, Clock clock) {
        return new Repeats(records.outcomes(), settings.records().schema(), settings.outcomesKept(), clock);
    }

    @Bean
    Trials trials(LiveModules live, TextCompiler compiler, Clock clock) {
        return new Trials(live, compiler, clock);
    }

    @Bean
    BytesInFlight bytesInFlight() {
        return BytesInFlight.ofHeap();
    }

    @Bean(destroyMethod = "close")
    Quotas quotas(Records records, LiveAccess access, Clock clock) {
        return new Quotas(
                records.quotaUses(),
                name -> {
                    ClientApplication client = access.now().client(name);
                    return client == null ? null : client.quota();
                },
                clock);
    }
}
