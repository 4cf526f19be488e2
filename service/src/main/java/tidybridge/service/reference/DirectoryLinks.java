package tidybridge.service.reference;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.directory.Hit;
import tidybridge.core.reference.Anchors;

/** Addresses of the directory and of places in references. */
public final class DirectoryLinks {

    private static final String DIRECTORY = "/directory";

    private DirectoryLinks() {}

    /** The same question, of one tag; without it where it is that already. */
    public static String tag(Question question, String tag) {
        return address(question.text(), question.owner(), tag.equals(question.tag()) ? null : tag);
    }

    /** Everything of one tag. */
    public static String tag(String tag) {
        return address("", null, tag);
    }

    /** The same question, of one owner; without it where it is that already. */
    public static String owner(Question question, String owner) {
        return address(question.text(), owner.equals(question.owner()) ? null : owner, question.tag());
    }

    /** The place where something was found. */
    public static String hit(String identity, Hit hit) {
        String page = "/reference/" + identity + "/" + hit.id();
        String name = hit.name();
        return switch (hit.kind()) {
            case OPERATION -> page;
            case FIELD -> page + "#" + Anchors.of("field", name == null ? "" : name);
            case PARAMETER -> page + "#inputs";
        };
    }

    /** Every place of a module where the words are. */
    public static String within(String identity, Question question) {
        return "/reference/" + identity + "?q=" + encoded(question.text());
    }

    private static String address(String text, @Nullable String owner, @Nullable String tag) {
        List<String> query = new ArrayList<>();
        if (!text.isEmpty()) {
            query.add("q=" + encoded(text));
        }
        if (owner != null) {
            query.add("owner=" + encoded(owner));
        }
        if (tag != null) {
            query.add("tag=" + encoded(tag));
        }
        return query.isEmpty() ? DIRECTORY : DIRECTORY + "?" + String.join("&", query);
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }
}
