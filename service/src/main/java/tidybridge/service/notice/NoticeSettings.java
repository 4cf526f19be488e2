package tidybridge.service.notice;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Whom the service tells something.
 *
 * @param mail the server that mail is given to; null for no mail
 * @param to the mail address of whoever gives access; null for none
 * @param webhook the address that is called for whoever runs the service; null for none
 * @param webhookKey what is sent there is signed with; empty without an address
 * @param inside the networks that the webhooks of teams may lead into, beside the open internet
 */
public record NoticeSettings(
        @Nullable MailSettings mail,
        @Nullable String to,
        @Nullable String webhook,
        String webhookKey,
        List<String> inside) {

    /** Nobody is told anything. */
    public static final NoticeSettings NONE = new NoticeSettings(null, null, null, "", List.of());

    public NoticeSettings {
        inside = List.copyOf(inside);
    }

    /** No secret is in it. */
    @Override
    public String toString() {
        return "mail " + (mail == null ? "none" : mail) + ", to " + to + ", webhook " + webhook + ", inside " + inside;
    }
}
