package tidybridge.service.capacity;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.run.Refusal;

/** Reads the bodies of HTTP requests within the bounds of this package, and says in a sentence which one is met. */
public final class BodyIntake {

    private BodyIntake() {}

    /** True when a request brings a body. */
    public static boolean hasBody(HttpServletRequest request) {
        long length = request.getContentLengthLong();
        return length > 0 || length < 0 && request.getHeader("Transfer-Encoding") != null;
    }

    /**
     * Reads a body.
     *
     * @param most bytes
     * @throws Refusal when it is too large, comes too slowly, or there is no room for it
     */
    public static byte[] read(HttpServletRequest request, int most, BytesInFlight.Share share)
            throws Refusal, IOException {
        try {
            return PacedInput.read(request.getInputStream(), request.getContentLengthLong(), most, share);
        } catch (PacedInput.NotRead e) {
            throw switch (e.reason()) {
                case TOO_LARGE ->
                    new Refusal(
                            ProblemKind.BODY_TOO_LARGE,
                            "The body is larger than " + most + " bytes; send less at once.");
                case NO_ROOM ->
                    new Refusal(
                            ProblemKind.BUSY,
                            "Too many large bodies are being read at this moment; send it again in a moment.");
                case TOO_SLOW ->
                    new Refusal(
                            ProblemKind.BODY_SLOW,
                            "The body came too slowly: at least " + Pace.LEAST_BYTES / 1024 + " KiB must come every "
                                    + Pace.PATIENCE.toSeconds() + " s; send it again on a better line.");
            };
        }
    }
}
