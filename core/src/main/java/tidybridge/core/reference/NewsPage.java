package tidybridge.core.reference;

import java.io.StringWriter;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.compare.Effect;

/** The news of a module as a page that needs no script, and as an Atom feed (RFC 4287). */
public final class NewsPage {

    private static final String ATOM = "http://www.w3.org/2005/Atom";
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.ENGLISH);
    private static final String STYLE = """
            :root { color-scheme: light dark; --paper: #f4f2ed; --ink: #23302f; --line: #e3dfd5; --water: #2d7a7b; --brick: #b4483a; }
            @media (prefers-color-scheme: dark) {
              :root { --paper: #141a1a; --ink: #dfe7e5; --line: #2c3838; --water: #5fb3b0; --brick: #e08376; }
            }
            body { background: var(--paper); color: var(--ink); font: 15px/1.5 system-ui, sans-serif; margin: 0 auto; max-width: 76ch; padding: 24px; }
            a { color: var(--water); }
            h1 { font-size: 24px; margin-bottom: 4px; }
            article { border-top: 1px solid var(--line); padding: 10px 0 16px; }
            h2 { font-size: 17px; margin: 0; }
            h3 { font-size: 14px; margin: 10px 0 0; }
            h3.breaking { color: var(--brick); }
            time, .since { opacity: 0.75; font-size: 13px; }
            p { margin: 6px 0; }
            ul { margin: 4px 0; padding-inline-start: 20px; }
            code { font-size: 13px; }
            """;

    private final ModuleNews news;
    private final String origin;
    private final StringWriter text = new StringWriter();
    private final XMLStreamWriter out;

    private NewsPage(ModuleNews news, String origin) throws XMLStreamException {
        this.news = news;
        this.origin = origin;
        this.out = XMLOutputFactory.newFactory().createXMLStreamWriter(text);
    }

    /**
     * The page as HTML.
     *
     * @param origin where the service is for whoever asks
     */
    public static String html(ModuleNews news, String origin) {
        try {
            return new NewsPage(news, origin).html();
        } catch (XMLStreamException e) {
            throw new IllegalStateException("a page can always be written into memory", e);
        }
    }

    /**
     * The feed.
     *
     * @param origin where the service is for whoever asks
     */
    public static String atom(ModuleNews news, String origin) {
        try {
            NewsPage page = new NewsPage(news, origin);
            return page.atom(page.address(), page.address() + ".atom");
        } catch (XMLStreamException e) {
            throw new IllegalStateException("a feed can always be written into memory", e);
        }
    }

    /**
     * The feed of several modules together.
     *
     * @param events the newest first
     * @param page where the service shows the modules, {@code /directory}
     * @param feed where the service has the feed
     * @param origin where the service is for whoever asks
     */
    public static String atom(String title, List<ModuleNews.Event> events, String page, String feed, String origin) {
        try {
            ModuleNews news = new ModuleNews("", title, List.of(), events);
            return new NewsPage(news, origin).atom(origin + page, origin + feed);
        } catch (XMLStreamException e) {
            throw new IllegalStateException("a feed can always be written into memory", e);
        }
    }

    private String address() {
        return origin + "/api/" + news.module() + "/changes";
    }

    /** Where an event is told beside the others of its module. */
    private String address(ModuleNews.Event event) {
        String module = event.address().replaceFirst("/.*", "");
        return origin + "/api/" + module + "/changes#" + event.id();
    }

    private String html() throws XMLStreamException {
        text.write("<!DOCTYPE html>\n");
        out.writeStartElement("html");
        out.writeAttribute("lang", "en");
        out.writeStartElement("head");
        empty("meta", "charset", "utf-8");
        empty("meta", "name", "viewport", "content", "width=device-width, initial-scale=1");
        element("title", news.title() + ": what changed");
        empty(
                "link",
                "rel",
                "alternate",
                "type",
                "application/atom+xml",
                "href",
                address() + ".atom",
                "title",
                news.title());
        element("style", STYLE);
        out.writeEndElement();
        out.writeStartElement("body");
        out.writeStartElement("main");
        element("h1", news.title() + ": what changed");
        writeHead();
        for (ModuleNews.Event event : news.events()) {
            out.writeStartElement("article");
            out.writeAttribute("id", event.id());
            element("h2", event.title());
            out.writeStartElement("time");
            out.writeAttribute("datetime", event.at().toString());
            out.writeCharacters(DAY.format(event.at().atOffset(ZoneOffset.UTC)));
            out.writeEndElement();
            writeWords(event);
            out.writeEndElement();
        }
        out.writeEndElement();
        out.writeEndElement();
        out.writeEndElement();
        out.close();
        return text.toString();
    }

    private void writeHead() throws XMLStreamException {
        out.writeStartElement("p");
        for (String identity : news.live()) {
            out.writeStartElement("a");
            out.writeAttribute("href", origin + "/api/" + identity + "/openapi.yaml");
            out.writeCharacters("Reference of " + identity);
            out.writeEndElement();
            out.writeCharacters(" · ");
        }
        out.writeStartElement("a");
        out.writeAttribute("href", address() + ".atom");
        out.writeCharacters("Feed (Atom)");
        out.writeEndElement();
        out.writeEndElement();
    }

    /** What an event means, in the page and in an entry of the feed alike. */
    private void writeWords(ModuleNews.Event event) throws XMLStreamException {
        if (event.note() != null) {
            element("p", event.note());
        }
        if (event.reason() != null) {
            String begin =
                    event.kind() == ModuleNews.Kind.PUBLISHED ? "Why callers must live with what breaks: " : "Why: ";
            element("p", begin + event.reason());
        }
        if (event.kind() == ModuleNews.Kind.PUBLISHED) {
            if (event.comparedWith() == null) {
                element("p", "The first release.");
            } else if (told(event, Effect.BREAKING).isEmpty()
                    && told(event, Effect.SAFE).isEmpty()) {
                element("p", "Callers are promised the same as by " + event.comparedWith() + ".");
            }
        }
        writeDifferences(event, Effect.BREAKING, "breaking", "Breaks callers of ");
        writeDifferences(event, Effect.SAFE, "safe", "Safe for callers of ");
        if (event.untold() > 0) {
            element("p", "And " + event.untold() + " more.");
        }
    }

    private static List<DifferenceNote> told(ModuleNews.Event event, Effect effect) {
        return event.differences().stream()
                .filter(difference -> difference.effect().equals(effect.label()))
                .toList();
    }

    private void writeDifferences(ModuleNews.Event event, Effect effect, String style, String begin)
            throws XMLStreamException {
        List<DifferenceNote> told = told(event, effect);
        if (told.isEmpty()) {
            return;
        }
        out.writeStartElement("h3");
        out.writeAttribute("class", style);
        out.writeCharacters(begin + event.comparedWith());
        out.writeEndElement();
        out.writeStartElement("ul");
        for (DifferenceNote difference : told) {
            out.writeStartElement("li");
            if (difference.operation() != null) {
                element("code", difference.operation());
                out.writeCharacters(" ");
            }
            out.writeCharacters(clean(difference.words()));
            out.writeEndElement();
        }
        out.writeEndElement();
    }

    private String atom(String page, String feed) throws XMLStreamException {
        out.writeStartDocument("utf-8", "1.0");
        out.writeStartElement("feed");
        out.writeDefaultNamespace(ATOM);
        element("id", page);
        element("title", news.title() + ": what changed");
        element("updated", news.updated().toString());
        empty("link", "rel", "self", "type", "application/atom+xml", "href", feed);
        empty("link", "rel", "alternate", "type", "text/html", "href", page);
        author();
        for (ModuleNews.Event event : news.events()) {
            out.writeStartElement("entry");
            element("id", "urn:uuid:" + event.id());
            element("title", event.title());
            element("updated", event.at().toString());
            empty("link", "rel", "alternate", "type", "text/html", "href", address(event));
            writeContent(event);
            out.writeEndElement();
        }
        out.writeEndElement();
        out.writeEndDocument();
        return text.toString();
    }

    /** Who works on a module is nobody's business outside. */
    private void author() throws XMLStreamException {
        out.writeStartElement("author");
        element("name", news.title());
        out.writeEndElement();
    }

    private void writeContent(ModuleNews.Event event) throws XMLStreamException {
        out.writeStartElement("content");
        out.writeAttribute("type", "xhtml");
        out.writeStartElement("div");
        out.writeDefaultNamespace("http://www.w3.org/1999/xhtml");
        writeWords(event);
        out.writeEndElement();
        out.writeEndElement();
    }

    private void element(String name, String content) throws XMLStreamException {
        out.writeStartElement(name);
        out.writeCharacters(clean(content));
        out.writeEndElement();
    }

    /** Signs that XML has no place for (XML 1.0, 2.2) would break the whole document. */
    private static String clean(String text) {
        StringBuilder clean = new StringBuilder(text.length());
        text.codePoints()
                .map(c -> c >= ' ' && c <= 0xD7FF || c >= 0xE000 && c <= 0xFFFD || c > 0xFFFF || c == '\n' || c == '\t'
                        ? c
                        : 0xFFFD)
                .forEach(clean::appendCodePoint);
        return clean.toString();
    }

    private void empty(String name, String... attributes) throws XMLStreamException {
        out.writeEmptyElement(name);
        for (int i = 0; i < attributes.length; i += 2) {
            out.writeAttribute(attributes[i], attributes[i + 1]);
        }
    }
}
