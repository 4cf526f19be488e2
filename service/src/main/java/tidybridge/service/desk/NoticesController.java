package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.records.Notice;
import tidybridge.records.Records;
import tidybridge.service.access.DeskNeeds;

/** What was told to people outside, and what could not be. */
@RestController
@RequestMapping("/desk/notices")
class NoticesController {

    private final Records records;

    NoticesController(Records records) {
        this.records = records;
    }

    /**
     * A notice without its text.
     *
     * @param nextAt when it is tried next; absent for one that does not wait
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record NoticeView(
            long id,
            String way,
            String recipient,
            @Nullable String team,
            String kind,
            String subject,
            Instant madeAt,
            String state,
            int tries,
            @Nullable Instant nextAt,
            @Nullable String trouble) {

        static NoticeView of(Notice notice) {
            return new NoticeView(
                    notice.id(),
                    notice.way().label(),
                    notice.recipient(),
                    notice.team(),
                    notice.kind(),
                    notice.subject(),
                    notice.madeAt(),
                    notice.state().label(),
                    notice.tries(),
                    notice.state() == Notice.State.WAITING ? notice.nextAt() : null,
                    notice.trouble());
        }
    }

    record NoticeViews(List<NoticeView> notices) {}

    @GetMapping
    @DeskNeeds(ServicePrivilege.OPERATE)
    NoticeViews newest() {
        return new NoticeViews(
                records.notices().newest().stream().map(NoticeView::of).toList());
    }
}
