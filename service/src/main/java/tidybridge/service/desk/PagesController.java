package tidybridge.service.desk;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.ResponseBody;
import tidybridge.core.definition.DefinitionSchema;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.CodePage;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.access.DeskOpen;

/**
 * Pages beside the APIs: the console's own addresses, the explanations of findings, the schemas of the text files, and the
 * management API's description.
 */
@Controller
class PagesController {

    /** The console draws its pages in the browser; each of its addresses is the same document. */
    @GetMapping({
        "/sign-in",
        "/modules",
        "/modules/**",
        "/begin",
        "/drafts",
        "/drafts/**",
        "/reviews",
        "/reviews/**",
        "/requests",
        "/sources",
        "/sources/**",
        "/workbench",
        "/account",
        "/nodes",
        "/access",
        "/access/**"
    })
    String console() {
        return "forward:/index.html";
    }

    @GetMapping(value = "/findings/{label}", produces = "text/markdown;charset=UTF-8")
    @ResponseBody
    String finding(@PathVariable("label") String label) {
        return Code.labelled(label)
                .map(code -> "# " + code.label() + "\n\n" + CodePage.of(code) + "\n")
                .orElseThrow(() -> new DeskRefusal(ProblemKind.ROUTE_UNKNOWN, "There is no finding of that name."));
    }

    @GetMapping("/schemas/{file}")
    ResponseEntity<byte[]> schema(@PathVariable("file") String file) {
        return DefinitionSchema.named(file)
                .map(schema -> ResponseEntity.ok()
                        .contentType(MediaType.parseMediaType("application/schema+json"))
                        .body(schema.bytes()))
                .orElseThrow(() -> new DeskRefusal(ProblemKind.ROUTE_UNKNOWN, "There is no schema of that name."));
    }

    @GetMapping("/desk/openapi.yaml")
    @DeskOpen(DeskOpen.To.SIGNED_IN)
    ResponseEntity<String> description() throws IOException {
        String text = new ClassPathResource("desk-openapi.yaml").getContentAsString(StandardCharsets.UTF_8);
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("application/yaml"))
                .body(text);
    }
}
