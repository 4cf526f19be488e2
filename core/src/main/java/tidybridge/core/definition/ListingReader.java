package tidybridge.core.definition;

import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads how a module is found. */
final class ListingReader {

    private static final Pattern TAG = Pattern.compile("[\\p{L}\\p{N}][\\p{L}\\p{N} ._-]{0,39}");
    private static final Pattern MAIL = Pattern.compile("[^\\s@<>\":/]{1,64}@[A-Za-z0-9.-]{1,190}");
    private static final int MOST_TAGS = 20;
    private static final int LONGEST_OWNER = 100;

    private final MappingReader keys;
    private final Findings findings;

    ListingReader(MappingReader keys, Findings findings) {
        this.keys = keys;
        this.findings = findings;
    }

    Listing read() {
        Listing.Audience audience = keys.oneOf("listed", Listing.Audience.class, Listing.Audience.CALLERS);
        return new Listing(owner(), contact(), terms(), tags(), audience == null ? Listing.Audience.CALLERS : audience);
    }

    private @Nullable String owner() {
        String owner = keys.text("owner");
        if (owner != null && owner.length() > LONGEST_OWNER) {
            keys.unfit(
                    "owner",
                    "is longer than " + LONGEST_OWNER + " characters",
                    "Name the team, as in 'owner: Harbour office'.");
            return null;
        }
        return owner;
    }

    private @Nullable String contact() {
        String contact = keys.text("contact");
        if (contact == null || MAIL.matcher(contact).matches() || isAddress(contact)) {
            return contact;
        }
        keys.unfit(
                "contact",
                "must be an address for mail, or one that begins with https://",
                "Write 'contact: harbour@marrowby.example'.");
        return null;
    }

    private @Nullable String terms() {
        String terms = keys.text("terms");
        if (terms == null || isAddress(terms)) {
            return terms;
        }
        keys.unfit(
                "terms",
                "must be an address that begins with https://",
                "Write 'terms: https://marrowby.example/terms'.");
        return null;
    }

    private static boolean isAddress(String contact) {
        try {
            URI uri = URI.create(contact);
            return "https".equals(uri.getScheme()) && uri.getHost() != null && uri.getUserInfo() == null;
        } catch (IllegalArgumentException e) {
            return false;
        }
    }

    private List<String> tags() {
        List<String> tags = new ArrayList<>();
        for (Node.Scalar tag : keys.texts("tags")) {
            String text = tag.text();
            if (!TAG.matcher(text).matches() || tags.contains(text) || tags.size() == MOST_TAGS) {
                findings.add(
                        Code.VALUE_UNFIT,
                        tag.place(),
                        "The tag '" + text + "' is "
                                + (tags.contains(text)
                                        ? "there twice."
                                        : tags.size() == MOST_TAGS
                                                ? "one more than the " + MOST_TAGS + " that a module may have."
                                                : "not a word or two."),
                        "Write a few words of letters and digits, as in 'tags: [berths, visitors]'.");
            } else {
                tags.add(text);
            }
        }
        return tags;
    }
}
