package tidybridge.service;

import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.notice.MailAddress;
import tidybridge.service.access.HostNames;
import tidybridge.service.notice.MailSettings;

/**
 * A server that takes mail.
 *
 * @param host its name
 * @param port 587 unless set
 * @param protection how the connection is protected; by STARTTLS unless set
 * @param user null for a server that asks for none
 * @param secretEnv the environment variable that holds the user's password
 * @param secretFile a file that holds it, in place of {@code secretEnv}
 * @param from the address that mail comes from
 */
public record MailSetting(
        @Nullable String host,
        @Nullable Integer port,
        MailSettings.@Nullable Protection protection,
        @Nullable String user,
        @Nullable String secretEnv,
        @Nullable Path secretFile,
        @Nullable String from) {

    private static final int SUBMISSION = 587;
    private static final int LAST_PORT = 65_535;

    MailSettings settled(List<String> problems) {
        String server = host == null ? "" : host;
        int at = port == null ? SUBMISSION : port;
        if (server.isBlank() || at < 1 || at > LAST_PORT) {
            problems.add("tidy.mail.host must name the mail server, and tidy.mail.port be one of its ports");
        }
        if (from == null || !MailAddress.isOne(from)) {
            problems.add("tidy.mail.from must be a mail address, such as tidy@marrowby.example");
        }
        MailSettings.Protection by = protection == null ? MailSettings.Protection.STARTTLS : protection;
        if (by == MailSettings.Protection.NONE && user != null && !HostNames.isLoopback(server)) {
            problems.add("tidy.mail.protection must not be none where a password is sent to another machine");
        }
        String password = user == null ? null : NamedSecret.read(secretEnv, secretFile, "tidy.mail.", problems);
        return new MailSettings(server, at, by, user, password, from == null ? "" : from);
    }
}
