package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import tidybridge.service.run.Refusal;

/** Is told of every call of the management API that was refused to its caller. Thread-safe. */
@FunctionalInterface
public interface DeskRefusals {

    /**
     * Notes one.
     *
     * @param operation method and path as they are defined; nothing of what the caller sent
     */
    void note(
            HttpServletRequest request,
            HttpServletResponse response,
            Visitor visitor,
            String operation,
            Refusal refusal);
}
