package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.records.Review;
import tidybridge.service.desk.ReleaseViews.FileView;
import tidybridge.service.release.FindingNote;

/** What the management API shows of reviews. Absent values are left out. */
final class ReviewViews {

    private ReviewViews() {}

    /**
     * A review as a list shows it.
     *
     * @param hash of the text that is to be approved
     * @param decidedBy absent while nobody decided
     * @param words what whoever decided said of it
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ReviewView(
            long id,
            String name,
            int major,
            String version,
            String hash,
            String state,
            @Nullable String comparedWith,
            @Nullable String note,
            @Nullable String breaking,
            @Nullable String from,
            String askedBy,
            Instant askedAt,
            @Nullable String decidedBy,
            @Nullable Instant decidedAt,
            @Nullable String words) {

        static ReviewView of(Review review) {
            Review.Decision decision = review.decision();
            return new ReviewView(
                    review.id(),
                    review.module(),
                    review.version().major(),
                    review.version().toString(),
                    review.hash(),
                    review.state().label(),
                    review.comparedWith() == null ? null : review.comparedWith().toString(),
                    review.note(),
                    review.breaksBecause(),
                    review.cameFrom(),
                    review.askedBy(),
                    review.askedAt(),
                    decision == null ? null : decision.by(),
                    decision == null ? null : decision.at(),
                    decision == null ? null : decision.words());
        }

        static @Nullable ReviewView ofOrNull(@Nullable Review review) {
            return review == null ? null : of(review);
        }
    }

    record ReviewsView(List<ReviewView> reviews) {}

    /**
     * A review with all that whoever decides needs to see.
     *
     * @param standing false when something else went live since, so that it can only be asked for anew
     * @param mayDecide whether whoever asks may approve and decline it
     * @param differences what callers of what is live would meet
     */
    record ReviewDetail(
            ReviewView review,
            boolean standing,
            boolean mayDecide,
            List<DifferenceNote> differences,
            List<FindingNote> findings,
            List<FileView> files,
            ModuleTexts.TextView text) {}

    /**
     * What became of asking for a module.
     *
     * @param review absent where none is needed
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record AskedView(String name, String version, @Nullable ReviewView review) {}

    record AskedViews(List<AskedView> modules) {}
}
