package tidybridge.service;

import java.io.IOException;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Configuration;
import tidybridge.core.archive.DamagedArchive;
import tidybridge.core.archive.Manifest;
import tidybridge.core.archive.StoreArchive;
import tidybridge.records.Records;
import tidybridge.records.RecordsFailure;
import tidybridge.records.RecordsSettings;

/**
 * {@code ./tidy restore FILE}: fills the empty record store that the settings name from an archive, and ends. What stops it is said in one
 * sentence on standard error, with exit code 1.
 */
public final class Restore {

    private Restore() {}

    /** Settings alone; nothing is started. */
    @Configuration(proxyBeanMethods = false)
    @EnableConfigurationProperties(TidySettings.class)
    static class SettingsOnly {}

    /** The first argument is the archive; the others are Spring's. */
    public static void main(String[] args) {
        String trouble = restore(Path.of(args[0]), args);
        if (trouble != null) {
            System.err.println("tidy: " + trouble);
            System.exit(1);
        }
    }

    private static @Nullable String restore(Path file, String[] args) {
        try (StoreArchive archive = StoreArchive.open(file)) {
            Manifest manifest = archive.manifest();
            System.out.println("An archive of " + manifest.madeAt() + ", written by " + manifest.program() + ".");
            RecordsSettings records = settings(args);
            Records.restore(records, archive, (table, rows) -> System.out.printf("  %-20s %8d rows%n", table, rows));
            System.out.println("The record store (" + records + ") is as it was then; start the service over it.");
            return null;
        } catch (DamagedArchive | RecordsFailure | TidySettings.Unfit e) {
            return String.valueOf(e.getMessage());
        } catch (IOException e) {
            return "The archive cannot be read: " + e.getMessage() + ".";
        }
    }

    private static RecordsSettings settings(String[] args) {
        try (ConfigurableApplicationContext context = new SpringApplicationBuilder(SettingsOnly.class)
                .web(WebApplicationType.NONE)
                .run(args)) {
            return context.getBean(TidySettings.class).checked().records();
        }
    }
}
