package tidybridge.service;

import jakarta.servlet.Filter;
import java.net.InetAddress;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
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
import org.springframework.core.Ordered;
import org.springframework.web.filter.RequestContextFilter;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import tidybridge.records.Records;
import tidybridge.service.access.AccessTokens;
import tidybridge.service.access.Credentials;
import tidybridge.service.access.DeskFilter;
import tidybridge.service.access.DeskPrivileges;
import tidybridge.service.access.DeskReach;
import tidybridge.service.access.DeskRefusals;
import tidybridge.service.access.FrontDoor;
import tidybridge.service.access.Gatekeeper;
import tidybridge.service.access.HostNames;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.assistant.AssistantServlet;
import tidybridge.service.assistant.ToolCalls;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.gateway.GatewayServlet;
import tidybridge.service.gateway.Repeats;
import tidybridge.service.live.LiveModules;
import tidybridge.service.node.Departure;
import tidybridge.service.node.ReadyFilter;
import tidybridge.service.oauth.TokenEndpoints;
import tidybridge.service.quota.Quotas;
import tidybridge.service.traffic.CallObserver;
import tidybridge.service.transport.LiveTls;
import tidybridge.service.trial.Trials;

/** Puts together what answers HTTP: the gateway, the filters before it and before the management API, and the server around them. */
@Configuration(proxyBeanMethods = false)
class WebWiring {

    /** Before the names that this service is called by are looked at: who spreads requests calls each node by its address. */
    @Bean
    FilterRegistrationBean<ReadyFilter> ready(Departure departure) {
        FilterRegistrationBean<ReadyFilter> registration = new FilterRegistrationBean<>(new ReadyFilter(departure));
        registration.setUrlPatterns(Set.of(ReadyFilter.PATH));
        registration.setOrder(Ordered.HIGHEST_PRECEDENCE);
        return registration;
    }

    @Bean
    FilterRegistrationBean<Filter> tokenEndpoints(
            TidySettings.Checked settings,
            LiveAccess access,
            AccessTokens tokens,
            Credentials credentials,
            LiveModules live,
            Clock clock) {
        TokenEndpoints endpoints = new TokenEndpoints(
                access,
                tokens,
                credentials,
                clock,
                settings.issuer(),
                () -> live.whole().privileges());
        FilterRegistrationBean<Filter> registration = new FilterRegistrationBean<>(endpoints.filter());
        registration.setUrlPatterns(TokenEndpoints.PATHS);
        return registration;
    }

    @Bean
    GatewayServlet gateway(
            LiveModules live,
            Gatekeeper gatekeeper,
            Quotas quotas,
            Repeats repeats,
            CallObserver observer,
            BytesInFlight bytes,
            Clock clock) {
        return new GatewayServlet(live, gatekeeper, quotas, repeats, observer, bytes, clock);
    }

    @Bean
    ServletRegistrationBean<GatewayServlet> calls(GatewayServlet gateway) {
        ServletRegistrationBean<GatewayServlet> registration = new ServletRegistrationBean<>(gateway, "/api/*");
        registration.setLoadOnStartup(1);
        return registration;
    }

    @Bean
    ServletRegistrationBean<AssistantServlet> assistants(
            GatewayServlet gateway,
            LiveModules live,
            Gatekeeper gatekeeper,
            BytesInFlight bytes,
            Trials trials,
            Quotas quotas,
            Records records,
            Clock clock) {
        ToolCalls calls = new ToolCalls(gateway, trials, quotas, records, clock);
        return new ServletRegistrationBean<>(
                new AssistantServlet(live, gatekeeper, bytes, calls), AssistantServlet.PATH + "*");
    }

    @Bean
    FilterRegistrationBean<FrontDoor> frontDoor(TidySettings.Checked settings, ServerProperties server) {
        InetAddress address = server.getAddress();
        boolean onLoopback = address != null && address.isLoopbackAddress();
        FilterRegistrationBean<FrontDoor> registration = new FilterRegistrationBean<>(
                new FrontDoor(HostNames.of(settings.names(), onLoopback), settings.plainSecrets()));
        registration.setOrder(Ordered.HIGHEST_PRECEDENCE + 1);
        return registration;
    }

    @Bean
    FilterRegistrationBean<DeskFilter> deskFilter(
            DeskReach reach, Gatekeeper gatekeeper, BytesInFlight bytes, DeskRefusals refusals) {
        FilterRegistrationBean<DeskFilter> registration =
                new FilterRegistrationBean<>(new DeskFilter(gatekeeper, reach, bytes, refusals));
        registration.setUrlPatterns(Set.of("/desk/*"));
        return registration;
    }

    @Bean
    WebMvcConfigurer deskPrivileges(DeskRefusals refusals, LiveAccess access, LiveModules modules) {
        return new WebMvcConfigurer() {
            @Override
            public void addInterceptors(InterceptorRegistry registry) {
                registry.addInterceptor(new DeskPrivileges(refusals)).addPathPatterns("/desk/**");
                registry.addInterceptor(new DeskCatchUp(access, modules)).addPathPatterns("/desk/**");
            }
        };
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
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> problemsFromTomcat(
            TidySettings.Checked settings, Optional<LiveTls> tls, Departure departure) {
        return factory -> {
            tls.ifPresent(live -> ServerTls.apply(factory, live));
            if (!settings.proxies().isEmpty()) {
                factory.addEngineValves(new ForwardedValve(settings.proxies()), believing(settings.proxies()));
            }
            factory.setProtocol(HttpProtocol.class.getName());
            factory.addConnectorCustomizers(ServerBounds::apply);
            factory.addConnectorCustomizers(connector -> {
                if (connector.getProtocolHandler() instanceof HttpProtocol http) {
                    // each connection ends with its next answer, so that its caller comes to another node
                    departure.first(() -> http.setMaxKeepAliveRequests(1));
                }
            });
            factory.addContextCustomizers(context -> {
                if (context.getParent() instanceof StandardHost host) {
                    host.setErrorReportValveClass(ProblemValve.class.getName());
                }
            });
        };
    }
}
