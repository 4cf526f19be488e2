package tidybridge.service.desk;

import java.nio.charset.StandardCharsets;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.metrics.Metrics;

/** What collectors of metrics read of this node. */
@RestController
class MetricsController {

    private final Metrics metrics;

    MetricsController(Metrics metrics) {
        this.metrics = metrics;
    }

    /** In the OpenMetrics text form, whatever is asked for: every collector reads it. */
    @GetMapping("/desk/metrics")
    @DeskNeeds(ServicePrivilege.READ)
    ResponseEntity<byte[]> metrics() {
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, Metrics.MEDIA_TYPE)
                .body(metrics.text().getBytes(StandardCharsets.UTF_8));
    }
}
