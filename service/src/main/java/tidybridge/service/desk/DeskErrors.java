package tidybridge.service.desk;

import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.apache.catalina.connector.ClientAbortException;
import org.apache.tomcat.util.http.InvalidParameterException;
import org.jooq.exception.DataAccessException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.stereotype.Controller;
import org.springframework.web.ErrorResponse;
import org.springframework.web.bind.MissingServletRequestParameterException;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.Problems;
import tidybridge.service.release.UnreadableContract;
import tidybridge.service.run.Refusal;

/** Turns everything that goes wrong outside the gateway into a problem document. */
@Controller
@ControllerAdvice
class DeskErrors implements ErrorController {

    private static final Logger LOG = LoggerFactory.getLogger(DeskErrors.class);

    @ExceptionHandler
    void refused(DeskRefusal e, HttpServletResponse response) throws IOException {
        Problems.write(response, e.problem());
    }

    @ExceptionHandler
    void refused(Refusal e, HttpServletResponse response) throws IOException {
        Problems.write(response, e);
    }

    @ExceptionHandler
    void unreadable(HttpMessageNotReadableException e, HttpServletResponse response) throws IOException {
        Problems.write(
                response,
                Problem.of(
                        ProblemKind.BAD_INPUT,
                        "The body is not the JSON this call reads; /desk/openapi.yaml describes it."));
    }

    @ExceptionHandler
    void mistyped(MethodArgumentTypeMismatchException e, HttpServletResponse response) throws IOException {
        Problems.write(
                response,
                Problem.of(
                        ProblemKind.BAD_INPUT,
                        "'" + e.getName() + "' is of another type; /desk/openapi.yaml describes it."));
    }

    @ExceptionHandler
    void missing(MissingServletRequestParameterException e, HttpServletResponse response) throws IOException {
        Problems.write(
                response,
                Problem.of(
                        ProblemKind.BAD_INPUT,
                        "'" + e.getParameterName() + "' is missing in the query; /desk/openapi.yaml describes it."));
    }

    /** An address whose query nobody can read. */
    @ExceptionHandler
    void unreadable(InvalidParameterException e, HttpServletResponse response) throws IOException {
        Problems.write(
                response,
                Problem.of(
                        ProblemKind.BAD_INPUT,
                        "The query of the address cannot be read; write its values in UTF-8, and '%' as '%25'."));
    }

    /** What is kept of a release cannot be compared with. */
    @ExceptionHandler
    void unreadable(UnreadableContract e, HttpServletResponse response) throws IOException {
        Problems.write(response, Problem.of(ProblemKind.CONFLICT, String.valueOf(e.getMessage())));
    }

    /** Every change of the record store is one transaction. */
    @ExceptionHandler
    void unreachable(DataAccessException e, HttpServletResponse response) throws IOException {
        LOG.error("The record store does not answer: {}", e.getMessage());
        Problems.write(
                response,
                Problem.of(
                        ProblemKind.SOURCE_UNAVAILABLE,
                        "The record store does not answer. What was to be changed is changed as a whole or not at all; look at it before you repeat it."));
    }

    /** Whoever asked is gone; nobody reads an answer, and nothing is wrong here. */
    @ExceptionHandler
    void gone(ClientAbortException e) {
        LOG.debug("whoever asked hung up", e);
    }

    @ExceptionHandler
    void other(Exception e, HttpServletResponse response) throws IOException {
        if (e instanceof ErrorResponse known) {
            Problems.write(response, ofStatus(known.getStatusCode().value()));
            return;
        }
        LOG.error("A management call failed", e);
        Problems.write(response, Problem.of(ProblemKind.FAILED, ProblemKind.FAILED.meaning()));
    }

    /** Where the servlet container sends what nobody handled. */
    @RequestMapping("/error")
    void error(HttpServletRequest request, HttpServletResponse response) throws IOException {
        Object status = request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE);
        Problems.write(response, ofStatus(status instanceof Integer code ? code : 404));
    }

    private static Problem ofStatus(int status) {
        return switch (status) {
            case 404 ->
                Problem.of(
                        ProblemKind.ROUTE_UNKNOWN,
                        "There is nothing at this address; the modules are at /directory, and the console is at /modules.");
            case 405 -> Problem.of(ProblemKind.METHOD_UNKNOWN, "This address does not answer that method.");
            case 415 -> Problem.of(ProblemKind.BODY_UNKNOWN, "The body must be application/json.");
            default -> {
                ProblemKind kind = ProblemKind.ofStatus(status);
                yield Problem.of(kind, kind.meaning());
            }
        };
    }
}
