package tidybridge.service;

import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.notice.MailAddress;
import tidybridge.service.notice.MailSettings;
import tidybridge.service.notice.NoticeSettings;

/**
 * Whom the service tells something.
 *
 * @param to the mail address of whoever gives access, for what concerns no module with a mail address of its own; none unless set
 * @param webhook the address that is called for whoever runs the service; none unless set
 * @param secretEnv the environment variable that holds what such calls are signed with
 * @param secretFile a file that holds it, in place of {@code secretEnv}
 * @param inside the networks that webhooks of teams may lead into, beside the open internet; none unless set
 */
public record NoticeSetting(
        @Nullable String to,
        @Nullable String webhook,
        @Nullable String secretEnv,
        @Nullable Path secretFile,
        @Nullable List<String> inside) {

    static final NoticeSetting UNSAID = new NoticeSetting(null, null, null, null, null);

    NoticeSettings settled(@Nullable MailSettings mail, List<String> problems) {
        if (to != null && !MailAddress.isOne(to)) {
            problems.add("tidy.notices.to must be a mail address, such as access@marrowby.example");
        }
        if (to != null && mail == null) {
            problems.add("tidy.notices.to needs a mail server in tidy.mail");
        }
        if (webhook != null && !webhook.matches("https?://[^\\s/?#]+[^\\s#]*")) {
            problems.add("tidy.notices.webhook must be an address, such as https://desk.marrowby.example/in");
        }
        List<String> networks = inside == null ? List.of() : inside;
        if (!networks.stream().allMatch(AddressList::isNetwork)) {
            problems.add("tidy.notices.inside must be networks such as 10.0.0.0/8");
        }
        String key = webhook == null ? "" : NamedSecret.read(secretEnv, secretFile, "tidy.notices.", problems);
        return new NoticeSettings(mail, to, webhook, key, networks);
    }
}
