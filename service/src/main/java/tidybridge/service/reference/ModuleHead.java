package tidybridge.service.reference;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.directory.ModuleState;
import tidybridge.core.reference.ReferenceText;

/**
 * What the pages of one module share.
 *
 * @param identity {@code moorings/v1}
 * @param version that is live
 * @param ended the sentence about its end; null while callers may begin to use it
 * @param terms where its terms of use are read, {@code https://...}; null for nowhere
 * @param base where it is called, {@code https://bridge.marrowby.example/api/moorings/v1}
 * @param assistants where assistants find its operations as tools, {@code https://bridge.marrowby.example/mcp/moorings/v1}
 * @param majors the identities of its major versions that whoever reads may see
 * @param guides that its owner wrote
 * @param text the reference in words; null while the module cannot be served
 * @param here the operation or guide of this page; null on the first page
 */
public record ModuleHead(
        String identity,
        String module,
        String version,
        String title,
        @Nullable String about,
        ModuleState state,
        @Nullable String ended,
        @Nullable String owner,
        @Nullable String contact,
        @Nullable String terms,
        List<String> tags,
        String base,
        String assistants,
        List<String> majors,
        List<Guides.Entry> guides,
        @Nullable ReferenceText text,
        @Nullable String here) {

    private static final int MOST_BESIDE = 100;

    public ModuleHead {
        tags = List.copyOf(tags);
        majors = List.copyOf(majors);
        guides = List.copyOf(guides);
    }

    /** Where its reference begins. */
    public String address() {
        return "/reference/" + identity;
    }

    /** Where an operation is explained. */
    public String address(String operation) {
        return address() + "/" + operation;
    }

    /** Where a guide is read. */
    public String guideAddress(String name) {
        return address() + "/guides/" + name;
    }

    /** Where the owner is reached, as a link. */
    public @Nullable String contactAddress() {
        return contact == null || contact.startsWith("https://") ? contact : "mailto:" + contact;
    }

    /** True for a tag whose operations stand beside each page: all of a small module, of a large one that of the page. */
    public boolean isOpen(ReferenceText.Tag tag) {
        return sections().stream().mapToInt(one -> one.operations().size()).sum() <= MOST_BESIDE
                || tag.operations().stream()
                        .anyMatch(operation -> operation.id().equals(here));
    }

    /** How many of its operations assistants use as tools. */
    public long tools() {
        return text == null
                ? 0
                : text.contract().operations().stream()
                        .filter(OperationTerms::offered)
                        .count();
    }

    /** Operations by tag; none while the module cannot be served. */
    public List<ReferenceText.Tag> sections() {
        return text == null ? List.of() : text.tags();
    }
}
