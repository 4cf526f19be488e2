package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import tidybridge.service.run.Refusal;

/** What is refused on a page of client teams is told on one. */
@ControllerAdvice(basePackageClasses = Site.class)
@Order(Ordered.HIGHEST_PRECEDENCE)
class SiteErrors {

    private final Site site;

    SiteErrors(Site site) {
        this.site = site;
    }

    @ExceptionHandler
    void refused(Refusal refusal, HttpServletRequest request, HttpServletResponse response) throws IOException {
        site.refuse(refusal, request, response);
    }
}
