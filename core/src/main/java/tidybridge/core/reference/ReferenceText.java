package tidybridge.core.reference;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;

/**
 * The reference of a release in words, made of what it promises: the same as {@link OpenApi} says, for people. Immutable and thread-safe.
 *
 * @param tags each with its operations, in the order of the text
 */
public record ReferenceText(Contract contract, List<Tag> tags) {
    public ReferenceText {
        tags = List.copyOf(tags);
    }

    /** Operations that stand together. */
    public record Tag(String name, List<Line> operations) {
        public Tag {
            operations = List.copyOf(operations);
        }

        public String anchor() {
            return Anchors.ofTag(name);
        }
    }

    /**
     * An operation in a list of many.
     *
     * @param id what the reference calls it
     * @param ends true when callers should stop using it
     */
    public record Line(
            String id, String method, String path, @Nullable String about, boolean ends) {

        /** {@code GET /berths/{berthId}} */
        public String label() {
            return method + " " + path;
        }
    }

    /** The reference of what is promised. */
    public static ReferenceText of(Contract contract) {
        Map<String, List<Line>> tags = new LinkedHashMap<>();
        for (OperationTerms operation : contract.operations()) {
            tags.computeIfAbsent(OpenApi.tag(contract, operation.path()), tag -> new ArrayList<>())
                    .add(new Line(
                            operation.id(),
                            operation.method().name(),
                            operation.path(),
                            operation.about(),
                            operation.deprecated() != null));
        }
        List<Tag> all = new ArrayList<>();
        tags.forEach((name, operations) -> all.add(new Tag(name, operations)));
        return new ReferenceText(contract, all);
    }

    /** What is promised of an operation, by what the reference calls it. */
    public Optional<OperationTerms> terms(String id) {
        return contract.operations().stream()
                .filter(operation -> operation.id().equals(id))
                .findFirst();
    }

    /** The whole of one operation in words. */
    public OperationText operation(OperationTerms terms) {
        return OperationWords.of(contract, terms);
    }
}
