package tidybridge.service.reference;

import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import gg.jte.output.StringOutput;
import java.nio.charset.StandardCharsets;
import java.util.Map;

/** Writes pages from their templates, which escape whatever they show. Thread-safe. */
final class SiteWriter {

    private final TemplateEngine templates = TemplateEngine.createPrecompiled(ContentType.Html);

    /** A page as HTML in UTF-8. */
    byte[] page(String template, Map<String, Object> values) {
        StringOutput out = new StringOutput();
        templates.render(template + ".jte", values, out);
        // lines that tell a template's parameters are empty in what it writes
        return out.toString().strip().getBytes(StandardCharsets.UTF_8);
    }
}
