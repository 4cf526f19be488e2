package tidybridge.service.notice;

import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.records.Notice;
import tidybridge.records.NoticeRecords;
import tidybridge.records.Team;
import tidybridge.service.capacity.LineLimit;

/**
 * Tells what waits to be told, at least once: whatever is not told is tried again, less and less often, for about a day and a half. Thread-safe.
 */
public final class NoticeSender implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(NoticeSender.class);

    /** How long it waits after each try that failed; after the last one it gives up. */
    private static final List<Duration> PAUSES = List.of(
            Duration.ofSeconds(30),
            Duration.ofMinutes(2),
            Duration.ofMinutes(10),
            Duration.ofHours(1),
            Duration.ofHours(6),
            Duration.ofHours(24));

    private static final Duration EVERY = Duration.ofSeconds(1);

    /** After so long another node takes up what this one did not end. */
    private static final Duration CLAIM = Duration.ofMinutes(2);

    private static final int AT_ONCE = 4;
    private static final int A_LOOK = 20;

    private final NoticeRecords records;
    private final NoticeSettings settings;
    private final Function<String, @Nullable Team> teams;
    private final @Nullable Mailer mailer;
    private final WebhookCaller webhooks;
    private final Clock clock;
    private final LineLimit lines = new LineLimit(10, Duration.ofMinutes(10));
    private final ScheduledExecutorService looking = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("notices").factory());
    private final ExecutorService telling = Executors.newFixedThreadPool(
            AT_ONCE, Thread.ofPlatform().daemon().name("notice-", 0).factory());

    /**
     * Begins to tell.
     *
     * @param teams finds a team by its name; null for one that is gone
     */
    public NoticeSender(
            NoticeRecords records, NoticeSettings settings, Function<String, @Nullable Team> teams, Clock clock) {
        this.records = records;
        this.settings = settings;
        this.teams = teams;
        MailSettings mail = settings.mail();
        this.mailer = mail == null ? null : new Mailer(mail);
        this.webhooks = new WebhookCaller(settings.inside(), clock);
        this.clock = clock;
        looking.scheduleWithFixedDelay(this::tellQuietly, EVERY.toMillis(), EVERY.toMillis(), TimeUnit.MILLISECONDS);
        looking.scheduleWithFixedDelay(this::forgetQuietly, 1, 60, TimeUnit.MINUTES);
    }

    private void tellQuietly() {
        try {
            List<Future<?>> under = new ArrayList<>();
            for (Notice notice : records.due(clock.instant(), A_LOOK)) {
                if (records.claim(notice, clock.instant().plus(CLAIM))) {
                    under.add(telling.submit(() -> tell(notice)));
                }
            }
            for (Future<?> one : under) {
                one.get();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (Exception e) {
            // the record store is away; what waits is told later
            LOG.debug("what waits to be told cannot be read", e);
        }
    }

    private void tell(Notice notice) {
        Notice.State state = Notice.State.TOLD;
        Instant at = clock.instant();
        String trouble = null;
        try {
            tellNow(notice);
        } catch (NotTold e) {
            boolean last = e.isForGood() || notice.tries() >= PAUSES.size();
            state = last ? Notice.State.GIVEN_UP : Notice.State.WAITING;
            at = last ? clock.instant() : clock.instant().plus(PAUSES.get(notice.tries()));
            trouble = e.why();
            warn(notice, trouble, last);
        }
        records.ended(notice, state, at, trouble);
    }

    private void tellNow(Notice notice) throws NotTold {
        switch (notice.way()) {
            case MAIL -> {
                if (mailer == null) {
                    throw new NotTold("No mail server is set.", false);
                }
                mailer.send(notice);
            }
            case WEBHOOK -> {
                String name = notice.team();
                if (name == null) {
                    webhooks.call(notice, Reach.EVERYWHERE, settings.webhookKey());
                    return;
                }
                Team team = teams.apply(name);
                String key = team == null ? null : team.webhookKey();
                if (team == null || key == null || !notice.recipient().equals(team.webhook())) {
                    throw new NotTold("The team has another address now.", true);
                }
                boolean open = !notice.recipient().startsWith("https:");
                webhooks.call(notice, open ? Reach.INSIDE : Reach.OUTSIDE, key);
            }
        }
    }

    private void warn(Notice notice, String trouble, boolean last) {
        if (lines.ask(System.nanoTime()) != LineLimit.NONE) {
            LOG.warn(
                    "Notice {} ({}, by {}) could not be told{}: {}",
                    notice.id(),
                    notice.kind(),
                    notice.way().label(),
                    last ? ", and is given up" : "; it is tried again",
                    trouble);
        }
    }

    private void forgetQuietly() {
        try {
            records.forget(clock.instant());
        } catch (RuntimeException e) {
            LOG.debug("the record store is away", e);
        }
    }

    @Override
    public void close() throws IOException {
        looking.shutdownNow();
        telling.shutdownNow();
        webhooks.close();
    }
}
