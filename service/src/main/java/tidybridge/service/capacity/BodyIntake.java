package tidybridge.service.capacity;

import jakarta.servlet.http.HttpServletRequest;
import java.io.ByteArrayInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.zip.GZIPInputStream;
import java.util.zip.ZipException;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.run.Refusal;

/** Reads the bodies of HTTP requests within the bounds of this package, and says in a sentence which one is met. */
public final class BodyIntake {

    private BodyIntake() {}

    private static final String GZIP = "gzip";

    /** What a zipped body holds, which is bounded like one that comes plain. */
    private static byte[] unzipped(byte[] body, int most, BytesInFlight.Share share)
            throws Refusal, IOException, PacedInput.NotRead {
        try (InputStream plain = new GZIPInputStream(new ByteArrayInputStream(body))) {
            return PacedInput.read(plain, -1, most, share);
        } catch (ZipException | EOFException e) {
            throw new Refusal(ProblemKind.BODY_UNKNOWN, "The body is said to be gzip, and is not.");
        }
    }

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
        String coding = request.getHeader("Content-Encoding");
        boolean zipped = GZIP.equalsIgnoreCase(coding);
        if (coding != null && !zipped && !coding.equalsIgnoreCase("identity")) {
            throw new Refusal(
                    ProblemKind.BODY_UNKNOWN,
                    "The body is coded in a way that is not read here; send it plain, or as gzip.");
        }
        try {
            byte[] body = PacedInput.read(request.getInputStream(), request.getContentLengthLong(), most, share);
            return zipped ? unzipped(body, most, share) : body;
        } catch (PacedInput.NotRead e) {
            throw refusal(e, most);
        }
    }

    /**
     * Writes a body to a file, as it comes.
     *
     * @param most bytes
     * @param longest how long all of it may take
     * @throws Refusal when it is too large, comes too slowly, or is coded
     */
    public static void keep(HttpServletRequest request, Path file, long most, Duration longest)
            throws Refusal, IOException {
        if (request.getHeader("Content-Encoding") != null) {
            throw new Refusal(
                    ProblemKind.BODY_UNKNOWN, "The body is coded in a way that is not read here; send it plain.");
        }
        try (OutputStream out = Files.newOutputStream(file)) {
            PacedInput.copy(request.getInputStream(), out, request.getContentLengthLong(), most, longest);
        } catch (PacedInput.NotRead e) {
            throw refusal(e, most);
        }
    }

    private static Refusal refusal(PacedInput.NotRead e, long most) {
        return switch (e.reason()) {
            case TOO_LARGE ->
                new Refusal(
                        ProblemKind.BODY_TOO_LARGE, "The body is larger than " + most + " bytes; send less at once.");
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
