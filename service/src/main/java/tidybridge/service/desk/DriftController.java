package tidybridge.service.desk;

import java.time.Instant;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.desk.Views.DriftNoteView;
import tidybridge.service.release.Drift;
import tidybridge.service.release.DriftWatch;

/** Whether databases still are what live releases were published against. */
@RestController
@RequestMapping("/desk/drift")
class DriftController {

    private final DriftWatch watch;

    DriftController(DriftWatch watch) {
        this.watch = watch;
    }

    record DriftView(String module, Instant checkedAt, List<DriftNoteView> notes) {
        static DriftView of(Drift drift) {
            return new DriftView(drift.identity(), drift.checkedAt(), DriftNoteView.of(drift));
        }
    }

    record DriftViews(List<DriftView> modules) {
        static DriftViews of(List<Drift> all) {
            return new DriftViews(all.stream().map(DriftView::of).toList());
        }
    }

    /** What was found last. */
    @GetMapping
    @DeskNeeds(ServicePrivilege.READ)
    DriftViews found() {
        return DriftViews.of(watch.found());
    }

    /** What is found now. */
    @PostMapping
    @DeskNeeds(ServicePrivilege.TRY)
    DriftViews look() {
        return DriftViews.of(watch.look());
    }
}
