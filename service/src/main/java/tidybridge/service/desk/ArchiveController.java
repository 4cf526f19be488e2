package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.concurrent.Semaphore;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AuditEntry;
import tidybridge.records.Records;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.Visitor;
import tidybridge.service.node.Build;

/** All that the service remembers, as one file. */
@RestController
class ArchiveController {

    private final Records records;
    private final Clock clock;
    private final Semaphore turn = new Semaphore(1);

    ArchiveController(Records records, Clock clock) {
        this.records = records;
        this.clock = clock;
    }

    /** Streams it; each keeps one connection to the records for as long as its reader takes. */
    @GetMapping("/desk/archive")
    @DeskNeeds(ServicePrivilege.BACK_UP)
    void archive(HttpServletRequest request, HttpServletResponse response) throws IOException {
        if (!turn.tryAcquire()) {
            throw new DeskRefusal(ProblemKind.BUSY, "Somebody takes an archive just now; try again when it is done.");
        }
        try {
            Visitor visitor = Visitor.of(request);
            Instant now = clock.instant();
            records.audit()
                    .add(new AuditEntry(
                            now, visitor.who(), visitor.caller().address(), "back-up", "record store", "all of it"));
            response.setContentType("application/zip");
            response.setHeader("Content-Disposition", "attachment; filename=\"tidy-records.zip\"");
            response.setHeader("Cache-Control", "no-store");
            records.archive(response.getOutputStream(), Build.version(), now);
        } finally {
            turn.release();
        }
    }
}
