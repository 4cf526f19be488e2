package tidybridge.service.reference;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import tidybridge.core.contract.Contract;
import tidybridge.core.reference.OlderOpenApi;
import tidybridge.core.sample.CodeLanguage;
import tidybridge.core.sample.SampleCall;
import tidybridge.core.typed.JavaClient;
import tidybridge.core.typed.TypeScriptClient;
import tidybridge.service.OwnAddress;
import tidybridge.service.live.LiveModule;
import tidybridge.service.run.Refusal;

/** Documents of a module beside its OpenAPI description, which is served with the module itself. */
@Controller
class DownloadsController {

    /** Bytes of documents that are kept: one of a large module takes half a second to be made, and anybody may ask for it. */
    private static final long MOST_KEPT = 16L * 1024 * 1024;

    private final Site site;
    private final References references;
    private final Cache<Key, byte[]> kept = Caffeine.newBuilder()
            .maximumWeight(MOST_KEPT)
            .weigher((Key key, byte[] bytes) -> bytes.length)
            .build();

    /** A document of a release, which tells the address of the service. */
    private record Key(long release, Kind kind, String origin) {}

    /** What can be got, by the last part of its address. */
    private enum Kind {
        /** Every call of a module as a message of HTTP/1.1 (RFC 9112), as editors and tools for requests read them. */
        CALLS("calls.http", Site.TEXT),
        /** For generators that do not read OpenAPI 3.1. */
        OPENAPI_3_0("openapi-3.0.json", Site.JSON),
        /** What travels, as JSON Schema 2020-12. */
        SCHEMAS("schemas.json", "application/schema+json"),
        /** Typed clients, each in one file. */
        TYPESCRIPT("client.ts", Site.TEXT),
        JAVA("client.java", Site.TEXT);

        private final String file;
        private final String mediaType;

        Kind(String file, String mediaType) {
            this.file = file;
            this.mediaType = mediaType;
        }

        static Kind of(String address) {
            return Arrays.stream(values())
                    .filter(kind -> address.endsWith("/" + kind.file))
                    .findFirst()
                    .orElseThrow();
        }
    }

    DownloadsController(Site site, References references) {
        this.site = site;
        this.references = references;
    }

    @GetMapping({
        "/reference/{module}/{major}/calls.http",
        "/reference/{module}/{major}/openapi-3.0.json",
        "/reference/{module}/{major}/schemas.json",
        "/reference/{module}/{major}/client.ts",
        "/reference/{module}/{major}/client.java"
    })
    void download(
            @PathVariable("module") String name,
            @PathVariable("major") String major,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException, Refusal {
        Kind kind = Kind.of(request.getRequestURI());
        LiveModule module = references.readable(name, major, site.onlooker(request));
        Contract contract = References.promised(module);
        if (kind == Kind.JAVA) {
            // the compiler wants the file to be called like its class
            response.setHeader("Content-Disposition", "attachment; filename=\"" + JavaClient.file(contract) + "\"");
        }
        String origin = OwnAddress.of(request);
        byte[] bytes = kept.get(new Key(module.release().id(), kind, origin), key -> write(kind, contract, origin));
        Site.send(bytes, kind.mediaType, request, response);
    }

    private static byte[] write(Kind kind, Contract contract, String origin) {
        return switch (kind) {
            case TYPESCRIPT -> TypeScriptClient.text(contract, origin).getBytes(StandardCharsets.UTF_8);
            case JAVA -> JavaClient.text(contract, origin).getBytes(StandardCharsets.UTF_8);
            case CALLS -> calls(contract, origin).getBytes(StandardCharsets.UTF_8);
            case OPENAPI_3_0 -> OlderOpenApi.json(contract, origin);
            case SCHEMAS ->
                OlderOpenApi.schemas(contract, origin + "/reference/" + contract.identity() + "/schemas.json");
        };
    }

    private static String calls(Contract contract, String origin) {
        return contract.operations().stream()
                .map(operation -> {
                    String about = operation.about() == null ? operation.label() : operation.about();
                    return "### " + about.replaceAll("\\R", " ") + "\n"
                            + CodeLanguage.HTTP.write(SampleCall.of(contract, operation), origin);
                })
                .collect(Collectors.joining("\n"));
    }
}
