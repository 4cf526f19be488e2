package tidybridge.service;

import java.net.InetAddress;
import java.security.SecureRandom;
import java.time.Clock;
import java.util.HexFormat;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.catalina.core.StandardHost;
import org.apache.catalina.valves.RemoteIpValve;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.boot.web.server.autoconfigure.ServerProperties;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.boot.web.servlet.ServletRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Fallback;
import org.springframework.core.Ordered;
import org.springframework.web.filter.RequestContextFilter;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.page.Continuation;
import tidybridge.engine.Sources;
import tidybridge.records.Records;
import tidybridge.service.access.Administrator;
import tidybridge.service.access.AdministratorOnly;
import tidybridge.service.access.DeskFilter;
import tidybridge.service.access.FrontDoor;
import tidybridge.service.access.Gatekeeper;
import tidybridge.service.access.HostNames;
import tidybridge.service.access.Sessions;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.gateway.GatewayServlet;
import tidybridge.service.gateway.Repeats;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.traffic.CallObserver;
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

    @Bean
    SecureRandom random() {
        return new SecureRandom();
    }

    @Bean
    Administrator administrator(TidySettings.Checked settings, SecureRandom random) {
        return Administrator.in(settings.home(), random);
    }

    @Bean
    Sessions sessions(Clock clock, SecureRandom random) {
        return new Sessions(clock, random);
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
            Records records, Sources sources, TextCompiler compiler, Continuation continuation, MaskKey maskKey) {
        return LiveModules.load(records, sources, compiler, continuation, maskKey);
    }

    @Bean
    TextCompiler textCompiler(Sources sources) {
        return new TextCompiler(sources);
    }

    @Bean
    Gatekeeper gatekeeper(Administrator administrator, Sessions sessions) {
        return new AdministratorOnly(administrator, sessions);
    }

    /** For as long as nobody wants to know. */
    @Bean
    @Fallback
    CallObserver callObserver() {
        return CallObserver.NONE;
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

    @Bean
    ServletRegistrationBean<GatewayServlet> gateway(
            LiveModules live, Gatekeeper gatekeeper, Repeats repeats, CallObserver observer, BytesInFlight bytes) {
        GatewayServlet servlet = new GatewayServlet(live, gatekeeper, repeats, observer, bytes);
        ServletRegistrationBean<GatewayServlet> registration = new ServletRegistrationBean<>(servlet, "/api/*");
        registration.setLoadOnStartup(1);
        return registration;
    }

    @Bean
    FilterRegistrationBean<FrontDoor> frontDoor(TidySettings.Checked settings, ServerProperties server) {
        InetAddress address = server.getAddress();
        boolean onLoopback = address != null && address.isLoopbackAddress();
        FilterRegistrationBean<FrontDoor> registration =
                new FilterRegistrationBean<>(new FrontDoor(HostNames.of(settings.names(), onLoopback)));
        registration.setOrder(Ordered.HIGHEST_PRECEDENCE);
        return registration;
    }

    @Bean
    FilterRegistrationBean<DeskFilter> deskFilter(Administrator administrator, Sessions sessions, BytesInFlight bytes) {
        FilterRegistrationBean<DeskFilter> registration =
                new FilterRegistrationBean<>(new DeskFilter(administrator, sessions, bytes));
        registration.setUrlPatterns(Set.of("/desk/*"));
        return registration;
    }

    /** Spring's own filter for its controllers keeps out of the gateway's way. */
    @Bean
    FilterRegistrationBean<RequestContextFilter> requestContext() {
        FilterRegistrationBean<RequestContextFilter> registration =
                new FilterRegistrationBean<>(new RequestContextFilter());
        registration.setUrlPatterns(Set.of("/desk/*"));
        return registration;
    }

    /** Takes address, name and scheme of a call from what these proxies say of it. */
    private static RemoteIpValve believing(List<String> proxies) {
        RemoteIpValve valve = new RemoteIpValve();
        valve.setInternalProxies(proxies.stream().map(Pattern::quote).collect(Collectors.joining("|")));
        valve.setHostHeader("X-Forwarded-Host");
        valve.setPortHeader("X-Forwarded-Port");
        return valve;
    }

    /** Errors that the HTTP server itself finds, before any servlet, become problem documents too. */
    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> problemsFromTomcat(TidySettings.Checked settings) {
        return factory -> {
            if (!settings.proxies().isEmpty()) {
                factory.addEngineValves(believing(settings.proxies()));
            }
            factory.setProtocol(HttpProtocol.class.getName());
            factory.addConnectorCustomizers(ServerBounds::apply);
            factory.addContextCustomizers(context -> {
                if (context.getParent() instanceof StandardHost host) {
                    host.setErrorReportValveClass(ProblemValve.class.getName());
                }
            });
        };
    }
}
