package tidybridge.service;

import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.SpringBootConfiguration;
import org.springframework.boot.autoconfigure.ImportAutoConfiguration;
import org.springframework.boot.autoconfigure.availability.ApplicationAvailabilityAutoConfiguration;
import org.springframework.boot.autoconfigure.context.LifecycleAutoConfiguration;
import org.springframework.boot.autoconfigure.context.PropertyPlaceholderAutoConfiguration;
import org.springframework.boot.autoconfigure.ssl.SslAutoConfiguration;
import org.springframework.boot.autoconfigure.task.TaskExecutionAutoConfiguration;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.boot.http.converter.autoconfigure.HttpMessageConvertersAutoConfiguration;
import org.springframework.boot.jackson.autoconfigure.JacksonAutoConfiguration;
import org.springframework.boot.tomcat.autoconfigure.servlet.TomcatServletWebServerAutoConfiguration;
import org.springframework.boot.web.server.PortInUseException;
import org.springframework.boot.webmvc.autoconfigure.DispatcherServletAutoConfiguration;
import org.springframework.boot.webmvc.autoconfigure.WebMvcAutoConfiguration;
import org.springframework.boot.webmvc.autoconfigure.error.ErrorMvcAutoConfiguration;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Import;
import tidybridge.records.RecordsFailure;
import tidybridge.service.desk.DeskWiring;
import tidybridge.service.live.LiveModules;
import tidybridge.service.reference.ReferenceWiring;
import tidybridge.service.sheet.SheetWiring;

/**
 * Starts the service, from parts that are named: to look for them would take longer than to start them. What stops it from starting is said in one sentence on
 * standard error, with exit code 1.
 */
@SpringBootConfiguration(proxyBeanMethods = false)
@ImportAutoConfiguration({
    PropertyPlaceholderAutoConfiguration.class,
    ApplicationAvailabilityAutoConfiguration.class,
    LifecycleAutoConfiguration.class,
    SslAutoConfiguration.class,
    TaskExecutionAutoConfiguration.class,
    JacksonAutoConfiguration.class,
    HttpMessageConvertersAutoConfiguration.class,
    TomcatServletWebServerAutoConfiguration.class,
    DispatcherServletAutoConfiguration.class,
    WebMvcAutoConfiguration.class,
    ErrorMvcAutoConfiguration.class
})
@Import({Wiring.class, WebWiring.class, DeskWiring.class, ReferenceWiring.class, SheetWiring.class})
@EnableConfigurationProperties(TidySettings.class)
public class Main {

    private static final Logger LOG = LoggerFactory.getLogger(Main.class);

    /** What the virtual machine itself ends with when there is no memory left. */
    private static final int OUT_OF_MEMORY = 3;

    public static void main(String[] args) {
        // memory beyond the heap is not watched by the virtual machine's own switch
        Thread.setDefaultUncaughtExceptionHandler((thread, failure) -> {
            if (failure instanceof OutOfMemoryError) {
                Runtime.getRuntime().halt(OUT_OF_MEMORY);
            }
            LOG.error("The thread {} ended", thread.getName(), failure);
        });
        try {
            ConfigurableApplicationContext service = SpringApplication.run(Main.class, args);
            welcome(service);
        } catch (Exception e) {
            String sentence = sentence(e);
            if (sentence == null) {
                e.printStackTrace();
            }
            System.err.println("tidy: " + (sentence == null ? "The service could not start; see above." : sentence));
            System.exit(1);
        }
    }

    /** For whoever started it by hand; the commands are the launcher's. */
    private static void welcome(ConfigurableApplicationContext service) {
        int modules = service.getBean(LiveModules.class).now().modules().size();
        String scheme = service.getBean(TidySettings.Checked.class).tls() == null ? "http" : "https";
        System.out.println(
                "Ready at " + scheme + "://" + service.getEnvironment().getProperty("server.address", "127.0.0.1") + ":"
                        + service.getEnvironment().getProperty("local.server.port") + " with " + modules
                        + (modules == 1 ? " module" : " modules") + "; Ctrl-C stops it.");
        System.out.println("'./tidy publish' makes modules live, './tidy console' prints a link that signs in.");
    }

    private static @Nullable String sentence(Throwable failure) {
        for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
            switch (cause) {
                case RecordsFailure known -> {
                    return known.getMessage();
                }
                case TidySettings.Unfit known -> {
                    return known.getMessage()
                            + " docs/first-day.md shows a first start, docs/operating.md every setting.";
                }
                case PortInUseException port -> {
                    return "Port " + port.getPort() + " is taken by another program; stop it, or set TIDY_PORT.";
                }
                default -> {}
            }
        }
        return null;
    }
}
