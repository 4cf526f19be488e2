package tidybridge.service.reference;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.commonmark.ext.gfm.tables.TablesExtension;
import org.commonmark.ext.heading.anchor.HeadingAnchorExtension;
import org.commonmark.node.AbstractVisitor;
import org.commonmark.node.Code;
import org.commonmark.node.Heading;
import org.commonmark.node.Link;
import org.commonmark.node.Node;
import org.commonmark.node.Text;
import org.commonmark.parser.Parser;
import org.commonmark.renderer.html.HtmlRenderer;
import org.springframework.stereotype.Component;
import tidybridge.core.definition.ModuleText;
import tidybridge.records.Release;

/** What the owner of a module writes for its callers in Markdown (CommonMark, with tables), beside its text. Thread-safe. */
@Component
public final class Guides {

    private static final String FOLDER = "guides/";
    private static final String SUFFIX = ".md";
    private static final Parser PARSER = Parser.builder()
            .extensions(List.of(TablesExtension.create()))
            .maxOpenBlockParsers(50)
            .build();

    /** HTML of a guide's own is shown as text, and links lead to web pages and mail alone: whoever reads a reference trusts this service. */
    private static final HtmlRenderer RENDERER = HtmlRenderer.builder()
            .extensions(List.of(TablesExtension.create(), HeadingAnchorExtension.create()))
            .escapeHtml(true)
            .sanitizeUrls(true)
            .build();

    /** Characters of drawn guides that are kept: anybody may ask for one. */
    private static final long MOST_KEPT = 4_000_000;

    private final Cache<Long, List<Entry>> titles =
            Caffeine.newBuilder().maximumSize(1_000).build();
    private final Cache<Page, String> pages = Caffeine.newBuilder()
            .maximumWeight(MOST_KEPT)
            .weigher((Page page, String html) -> html.length())
            .build();

    /** A guide of a release. */
    private record Page(long release, String name) {}

    /**
     * A guide by its name, and what it is called.
     *
     * @param name of its file without the folder and the ending
     * @param title its first heading; the name when it has none
     */
    public record Entry(String name, String title) {}

    /** The guides of a release, by the names of their files. */
    List<Entry> of(Release release) {
        return titles.get(release.id(), id -> read(release.text()));
    }

    private static List<Entry> read(ModuleText text) {
        List<Entry> guides = new ArrayList<>();
        for (Map.Entry<String, String> file : text.files().entrySet()) {
            if (ModuleText.isGuide(file.getKey())) {
                String name = name(file.getKey());
                guides.add(new Entry(name, title(name, PARSER.parse(file.getValue()))));
            }
        }
        return guides;
    }

    /**
     * A guide that is there as HTML.
     *
     * @param operations addresses of their pages by their labels, {@code GET /berths}: where a guide names one as code, it is a link
     */
    String html(Release release, String name, Map<String, String> operations) {
        return pages.get(new Page(release.id(), name), page -> {
            Node document =
                    PARSER.parse(release.text().source(FOLDER + name + SUFFIX).text());
            document.accept(new OperationLinks(operations));
            return RENDERER.render(document);
        });
    }

    /** Makes links of the operations that a guide names. */
    private static final class OperationLinks extends AbstractVisitor {

        private final Map<String, String> operations;

        OperationLinks(Map<String, String> operations) {
            this.operations = operations;
        }

        @Override
        public void visit(Code code) {
            String address = operations.get(code.getLiteral());
            if (address != null && !(code.getParent() instanceof Link)) {
                Link link = new Link(address, null);
                code.insertBefore(link);
                link.appendChild(code);
            }
        }
    }

    private static String name(String file) {
        return file.substring(FOLDER.length(), file.length() - SUFFIX.length());
    }

    private static String title(String name, Node guide) {
        for (Node node = guide.getFirstChild(); node != null; node = node.getNext()) {
            if (node instanceof Heading heading) {
                String title = words(heading);
                return title.isBlank() ? name : title;
            }
        }
        return name;
    }

    private static String words(Node node) {
        StringBuilder words = new StringBuilder();
        node.accept(new AbstractVisitor() {
            @Override
            public void visit(Text text) {
                words.append(text.getLiteral());
            }

            @Override
            public void visit(Code code) {
                words.append(code.getLiteral());
            }
        });
        return words.toString();
    }
}
