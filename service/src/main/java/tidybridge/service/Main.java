package tidybridge.service;

import org.jspecify.annotations.Nullable;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.boot.web.server.PortInUseException;
import tidybridge.records.RecordsFailure;

/** Starts the service. What stops it from starting is said in one sentence on standard error, with exit code 1. */
@SpringBootApplication(proxyBeanMethods = false)
@EnableConfigurationProperties(TidySettings.class)
public class Main {

    public static void main(String[] args) {
        try {
            SpringApplication.run(Main.class, args);
        } catch (Exception e) {
            String sentence = sentence(e);
            if (sentence == null) {
                e.printStackTrace();
            }
            System.err.println("tidy: " + (sentence == null ? "The service could not start; see above." : sentence));
            System.exit(1);
        }
    }

    private static @Nullable String sentence(Throwable failure) {
        for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
            switch (cause) {
                case RecordsFailure known -> {
                    return known.getMessage();
                }
                case TidySettings.Unfit known -> {
                    return known.getMessage();
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
