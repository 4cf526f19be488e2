package tidybridge.service.notice;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.records.AccessRequest;

/** What mails say, and what webhooks are sent. */
final class NoticeWords {

    private NoticeWords() {}

    /** The subject of a mail to whoever answers. */
    static String asked(AccessRequest request) {
        return request.kind() == AccessRequest.Kind.TEAM
                ? request.title() + " asks to become a client team"
                : request.title() + " asks for access to " + request.module();
    }

    /**
     * Its text.
     *
     * @param own the service's address; empty when nobody trustworthy told it
     */
    static String asked(AccessRequest request, String own) {
        return (request.kind() == AccessRequest.Kind.TEAM
                        ? request.askedBy() + " (" + request.contact() + ") asks to become a client team named '"
                                + request.title() + "'.\n"
                        : request.askedBy() + " of the team '" + request.title() + "' asks for these privileges of "
                                + request.module() + " for the application '" + request.client() + "':\n"
                                + listed(request))
                + "\nThe reason that was given:\n" + indented(request.reason())
                + (own.isEmpty()
                        ? "\nAnswer it in the console under Requests,"
                        : "\nAnswer it here: " + own + "/requests?id=" + request.id())
                + "\nor type: ./tidy request show " + request.id() + "\n";
    }

    /** The subject of a mail to whoever asked. */
    static String answered(AccessRequest request) {
        boolean allowed = request.state() == AccessRequest.State.ALLOWED;
        if (request.kind() == AccessRequest.Kind.TEAM) {
            return allowed ? request.title() + " is a client team now" : "The team " + request.title() + " was refused";
        }
        return "Access to " + request.module() + (allowed ? " was allowed" : " was refused");
    }

    /** Its text. */
    static String answered(AccessRequest request, @Nullable String link, String own) {
        boolean allowed = request.state() == AccessRequest.State.ALLOWED;
        Instant end = request.endsAt();
        StringBuilder text = new StringBuilder(answered(request)).append(".\n");
        if (request.kind() == AccessRequest.Kind.PRIVILEGES) {
            text.append("\nApplication: ").append(request.client()).append('\n').append(listed(request));
            if (allowed) {
                text.append(end == null ? "It does not end by itself.\n" : "It ends at " + end + ".\n");
            }
        }
        String words = request.words();
        if (words != null) {
            text.append('\n').append(request.decidedBy()).append(" says:\n").append(indented(words));
        }
        if (link != null) {
            text.append("\nJoin it with this link, which works once, for seven days: ")
                    .append(link)
                    .append('\n');
        } else if (request.team() != null) {
            text.append("\nYour team's page: ").append(own).append("/team\n");
        }
        return text.toString();
    }

    private static String listed(AccessRequest request) {
        StringBuilder lines = new StringBuilder();
        request.privileges()
                .forEach(privilege -> lines.append("  ").append(privilege).append('\n'));
        return lines.toString();
    }

    private static String indented(String text) {
        return text.strip().indent(2);
    }

    /** The data of an event; absent values are null. */
    static Map<String, @Nullable Object> data(AccessRequest request) {
        Map<String, @Nullable Object> data = new LinkedHashMap<>();
        data.put("request", request.id());
        data.put("kind", request.kind().label());
        data.put("state", request.state().label());
        data.put("team", request.team());
        data.put("title", request.title());
        data.put("client", request.client());
        data.put("module", request.module());
        data.put("privileges", request.privileges());
        data.put("reason", request.reason());
        data.put("askedBy", request.askedBy());
        data.put("decidedBy", request.decidedBy());
        data.put("words", request.words());
        data.put("endsAt", request.endsAt() == null ? null : request.endsAt().toString());
        return data;
    }
}
