package tidybridge.service.notice;

import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Date;
import java.util.Properties;
import org.eclipse.angus.mail.smtp.SMTPAddressFailedException;
import org.eclipse.angus.mail.smtp.SMTPSendFailedException;
import org.jspecify.annotations.Nullable;
import tidybridge.records.Notice;

/** Gives mail to a server. Thread-safe. */
final class Mailer {

    private static final Duration PATIENCE = Duration.ofSeconds(10);
    private static final int REFUSED_FOR_GOOD = 500;

    private final MailSettings settings;
    private final Session session;

    Mailer(MailSettings settings) {
        this.settings = settings;
        this.session = Session.getInstance(properties(settings));
    }

    private static Properties properties(MailSettings settings) {
        String patience = String.valueOf(PATIENCE.toMillis());
        boolean starts = settings.protection() == MailSettings.Protection.STARTTLS;
        Properties all = new Properties();
        all.setProperty("mail.smtp.host", settings.host());
        all.setProperty("mail.smtp.port", String.valueOf(settings.port()));
        all.setProperty("mail.smtp.connectiontimeout", patience);
        all.setProperty("mail.smtp.timeout", patience);
        all.setProperty("mail.smtp.writetimeout", patience);
        all.setProperty("mail.smtp.starttls.enable", String.valueOf(starts));
        all.setProperty("mail.smtp.starttls.required", String.valueOf(starts));
        all.setProperty("mail.smtp.ssl.enable", String.valueOf(settings.protection() == MailSettings.Protection.TLS));
        all.setProperty("mail.smtp.ssl.checkserveridentity", "true");
        all.setProperty("mail.smtp.auth", String.valueOf(settings.user() != null));
        return all;
    }

    /** Sends one. */
    void send(Notice notice) throws NotTold {
        try (Transport transport = session.getTransport("smtp")) {
            Message message = message(notice);
            transport.connect(settings.user(), settings.password());
            transport.sendMessage(message, message.getAllRecipients());
        } catch (MessagingException e) {
            throw new NotTold("The mail server said: " + said(e), isForGood(e));
        }
    }

    private Message message(Notice notice) throws MessagingException {
        MimeMessage message = new MimeMessage(session);
        message.setFrom(new InternetAddress(settings.from(), true));
        message.setRecipient(Message.RecipientType.TO, new InternetAddress(notice.recipient(), true));
        message.setSubject(notice.subject().replaceAll("\\p{Cntrl}+", " "), StandardCharsets.UTF_8.name());
        message.setSentDate(Date.from(notice.madeAt()));
        // nobody answers a machine with a machine (RFC 3834)
        message.setHeader("Auto-Submitted", "auto-generated");
        message.setText(notice.content(), StandardCharsets.UTF_8.name());
        return message;
    }

    private static boolean isForGood(MessagingException e) {
        for (Exception cause = e; cause != null; cause = next(cause)) {
            if (cause instanceof SMTPAddressFailedException address) {
                return address.getReturnCode() >= REFUSED_FOR_GOOD;
            }
            if (cause instanceof SMTPSendFailedException sending) {
                return sending.getReturnCode() >= REFUSED_FOR_GOOD;
            }
        }
        return false;
    }

    private static @Nullable Exception next(Exception e) {
        return e instanceof MessagingException messaging ? messaging.getNextException() : null;
    }

    private static String said(MessagingException e) {
        Exception last = e;
        while (last instanceof SendFailedException sending && sending.getNextException() != null) {
            last = sending.getNextException();
        }
        return String.valueOf(last.getMessage()).strip().replaceAll("\\s+", " ");
    }
}
