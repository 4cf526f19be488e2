package tidybridge.cli;

import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.Duration;

/** The text of a document that somebody names by a file or by an address. */
final class DocumentText {

    private static final int LARGEST = 6 * 1024 * 1024;
    private static final Duration LONGEST = Duration.ofSeconds(30);

    private DocumentText() {}

    /** Its text; a file or an address that cannot be read ends the command. */
    static String read(String named) {
        byte[] bytes = isAddress(named) ? fetched(named) : file(named);
        if (bytes.length > LARGEST) {
            throw CommandFailure.refused("'" + shown(named) + "' has more than " + LARGEST / 1024 / 1024
                    + " MB; leave out what is not needed.");
        }
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
        } catch (CharacterCodingException e) {
            throw CommandFailure.refused("'" + shown(named) + "' is no text in UTF-8; save it in that encoding.");
        }
    }

    /** What a module of it is called: the last part of its name without its ending. */
    static String name(String named) {
        String bare = isAddress(named) ? String.valueOf(URI.create(named).getPath()) : named;
        String last = bare.substring(bare.lastIndexOf('/') + 1).replaceFirst("\\.[A-Za-z0-9]+$", "");
        return last.isEmpty() ? "document" : last;
    }

    private static boolean isAddress(String named) {
        return named.matches("(?i)https?://\\S+");
    }

    private static byte[] file(String named) {
        try (InputStream bytes = Files.newInputStream(Path.of(named))) {
            return bytes.readNBytes(LARGEST + 1);
        } catch (IOException | InvalidPathException e) {
            throw CommandFailure.refused("The file " + named + " cannot be read.");
        }
    }

    /** An address as messages show it: who enters, and what is asked, may be secrets. */
    private static String shown(String address) {
        return address.replaceFirst("//[^/@]*@", "//").replaceFirst("[?#].*", "");
    }

    private static byte[] fetched(String address) {
        try (HttpClient http = HttpClient.newBuilder()
                .connectTimeout(LONGEST)
                .followRedirects(HttpClient.Redirect.NORMAL)
                .build()) {
            HttpRequest request = HttpRequest.newBuilder(URI.create(address))
                    .header("Accept", "application/json, application/yaml, */*")
                    .timeout(LONGEST)
                    .build();
            HttpResponse<InputStream> response = http.send(request, HttpResponse.BodyHandlers.ofInputStream());
            try (InputStream body = response.body()) {
                if (response.statusCode() != 200) {
                    throw CommandFailure.refused(shown(address) + " answered with " + response.statusCode()
                            + "; name what has the document itself.");
                }
                return body.readNBytes(LARGEST + 1);
            }
        } catch (IOException | IllegalArgumentException e) {
            throw CommandFailure.refused(shown(address) + " cannot be fetched; save it to a file and name that.");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw CommandFailure.refused(shown(address) + " was not fetched.");
        }
    }
}
