package tidybridge.service.notice;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.notice.MailAddress;
import tidybridge.core.reference.ModuleNews;
import tidybridge.records.AccessRequest;
import tidybridge.records.Notice;
import tidybridge.records.NoticeRecords;
import tidybridge.records.Team;
import tools.jackson.databind.json.JsonMapper;

/**
 * Puts into words what concerns somebody outside, and has it told by {@link NoticeSender}. What is asked or answered is never refused because
 * it cannot be told. Thread-safe.
 */
public final class Notices {

    private static final Logger LOG = LoggerFactory.getLogger(Notices.class);

    private final NoticeRecords records;
    private final NoticeSettings settings;
    private final @Nullable String address;
    private final Clock clock;

    /**
     * Prepares to tell.
     *
     * @param address the service's own from outside; null when it is only known by what whoever calls says
     */
    public Notices(NoticeRecords records, NoticeSettings settings, @Nullable String address, Clock clock) {
        this.address = address;
        this.records = records;
        this.settings = settings;
        this.clock = clock;
    }

    /** True when what teams are told may go to addresses without transport security. */
    public boolean reachesInside() {
        return !settings.inside().isEmpty();
    }

    /** True when mail can be sent. */
    public boolean canMail() {
        return settings.mail() != null;
    }

    /**
     * Tells whoever may answer that somebody asks for something.
     *
     * @param contact of the module's owner; null for none
     * @param called the service's address as whoever asks called it
     */
    public void asked(AccessRequest request, @Nullable String contact, String called) {
        // a stranger may call the service by a name of their own
        boolean stranger = request.kind() == AccessRequest.Kind.TEAM;
        String own = address != null ? address : stranger ? "" : called;
        Event event = new Event("access-asked", NoticeWords.asked(request), NoticeWords.asked(request, own));
        Set<String> mails = new LinkedHashSet<>();
        if (contact != null && MailAddress.isOne(contact)) {
            mails.add(contact);
        }
        String to = settings.to();
        if (to != null && mails.isEmpty()) {
            mails.add(to);
        }
        List<Notice> all = new ArrayList<>();
        mails.forEach(mail -> mail(all, event, mail, null));
        String webhook = settings.webhook();
        if (webhook != null) {
            all.add(call(event, webhook, null, NoticeWords.data(request), own));
        }
        keep(all);
    }

    /**
     * Tells whoever asked what was answered.
     *
     * @param team null for one that did not become one
     * @param link with which the first of a new team's people joins it; null for none
     * @param called the service's address as whoever answers called it
     */
    public void answered(AccessRequest request, @Nullable Team team, @Nullable String link, String called) {
        String own = address == null ? called : address;
        String kind = request.state() == AccessRequest.State.ALLOWED ? "access-allowed" : "access-refused";
        Event event = new Event(kind, NoticeWords.answered(request), NoticeWords.answered(request, link, own));
        List<Notice> all = new ArrayList<>();
        mail(all, event, request.contact(), request.team());
        String webhook = team == null ? null : team.webhook();
        if (team != null && webhook != null) {
            all.add(call(event, webhook, team.name(), NoticeWords.data(request), own));
        }
        keep(all);
    }

    /**
     * Tells teams what happened to modules.
     *
     * @param called the service's address as whoever changed something called it
     */
    public void news(Map<Team, List<ModuleNews.Event>> byTeam, String called) {
        String own = address == null ? called : address;
        List<Notice> all = new ArrayList<>();
        byTeam.forEach((team, events) -> {
            Event event = new Event("module-news", NewsWords.subject(events), NewsWords.text(events, own));
            mail(all, event, team.contact(), team.name());
            String webhook = team.webhook();
            if (webhook != null) {
                all.add(call(event, webhook, team.name(), NewsWords.data(events, own), own));
            }
        });
        keep(all);
    }

    private record Event(String kind, String subject, String text) {}

    private void mail(List<Notice> all, Event event, String recipient, @Nullable String team) {
        if (canMail()) {
            all.add(Notice.waiting(
                    Notice.Way.MAIL, recipient, team, event.kind(), event.subject(), event.text(), clock.instant()));
        }
    }

    /** The same id comes with each try, so that whoever is called knows what they have. */
    private Notice call(
            Event event, String recipient, @Nullable String team, Map<String, @Nullable Object> data, String own) {
        Instant now = clock.instant();
        Map<String, @Nullable Object> all = new LinkedHashMap<>();
        all.put("specversion", "1.0");
        all.put("id", UUID.randomUUID().toString());
        all.put("source", own.isEmpty() ? "/" : own);
        all.put("type", "tidy-bridge." + event.kind());
        all.put("time", now.toString());
        all.put("datacontenttype", "application/json");
        all.put("data", data);
        return Notice.waiting(
                Notice.Way.WEBHOOK,
                recipient,
                team,
                event.kind(),
                event.subject(),
                JsonMapper.shared().writeValueAsString(all),
                now);
    }

    private void keep(List<Notice> notices) {
        try {
            if (!records.add(notices)) {
                LOG.warn(
                        "{} notices wait to be told already, so that others are left out; './tidy notices' shows why they wait.",
                        NoticeRecords.MOST_WAITING);
            }
        } catch (RuntimeException e) {
            LOG.warn("Something could not be kept that was to be told: {}", e.getMessage());
        }
    }
}
