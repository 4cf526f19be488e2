package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.Publisher;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.Review;
import tidybridge.records.ReviewClosed;
import tidybridge.records.VersionTaken;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.Visitor;
import tidybridge.service.desk.ReleaseViews.FileView;
import tidybridge.service.desk.ReleasesController.PublishRequest;
import tidybridge.service.desk.ReviewViews.AskedView;
import tidybridge.service.desk.ReviewViews.AskedViews;
import tidybridge.service.desk.ReviewViews.ReviewDetail;
import tidybridge.service.desk.ReviewViews.ReviewView;
import tidybridge.service.desk.ReviewViews.ReviewsView;
import tidybridge.service.live.TextCompiler;
import tidybridge.service.release.FindingNote;
import tidybridge.service.release.Objected;
import tidybridge.service.release.Prospect;
import tidybridge.service.release.Publishing;

/** Asking a second person to approve what is to be published, and what they decide. */
@RestController
@RequestMapping("/desk/reviews")
class ReviewsController {

    private final Publishing publishing;
    private final ModuleTexts texts;
    private final Records records;
    private final LiveAccess access;
    private final Clock clock;

    ReviewsController(Publishing publishing, ModuleTexts texts, Records records, LiveAccess access, Clock clock) {
        this.publishing = publishing;
        this.texts = texts;
        this.records = records;
        this.access = access;
        this.clock = clock;
    }

    /**
     * What is decided.
     *
     * @param decision {@code approve} or {@code decline}
     * @param hash of the text that whoever decides has read
     * @param words what they say of it; needed to decline
     */
    record DecisionRequest(
            @Nullable String decision,
            @Nullable String hash,
            @Nullable String words) {}

    /** The newest ones, those that wait first. */
    @GetMapping
    @DeskNeeds(ServicePrivilege.READ)
    ReviewsView all() {
        return new ReviewsView(
                records.reviews().newest().stream().map(ReviewView::of).toList());
    }

    @GetMapping("/{id}")
    @DeskNeeds(ServicePrivilege.READ)
    ReviewDetail one(@PathVariable("id") long id, HttpServletRequest http) {
        Review review = find(id);
        ModuleText text = records.reviews().text(id).orElseThrow(ReviewsController::unknown);
        Long live = records.releases()
                .live(review.module(), review.version().major())
                .map(Release::id)
                .orElse(null);
        String differences = review.differences();
        String findings = review.findings();
        return new ReviewDetail(
                ReviewView.of(review),
                Objects.equals(live, review.replaces()),
                whyNot(review, Visitor.of(http)) == null,
                differences == null ? List.of() : DifferenceNote.read(differences),
                findings == null ? List.of() : FindingNote.read(findings),
                FileView.since(records, review.comparedWith(), review.module(), text),
                new ModuleTexts.TextView(text.folder(), text.files()));
    }

    private Review find(long id) {
        return records.reviews().find(id).orElseThrow(ReviewsController::unknown);
    }

    private static DeskRefusal unknown() {
        return new DeskRefusal(
                ProblemKind.ROW_UNKNOWN, "No review of that number is kept; './tidy review list' lists them.");
    }

    @PostMapping(consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.EDIT)
    ResponseEntity<?> ask(@RequestBody PublishRequest request, HttpServletRequest http) {
        List<TextCompiler.Compiled> compiled = texts.compile(
                ModuleTexts.of(request.modules()),
                ModuleTexts.roles(request.roles(), access.now().roles()));
        if (compiled.stream().anyMatch(module -> module.plan() == null)) {
            return ReleasesController.unfit(compiled);
        }
        ModuleTexts.refuseTwins(compiled);
        List<Prospect> prospects = compiled.stream().map(publishing::look).toList();
        try {
            List<@Nullable Review> reviews = publishing.ask(
                    prospects, ReleaseWords.words(request), by(ReleasesController.by(request, Visitor.of(http)), http));
            List<AskedView> views = new ArrayList<>();
            for (int i = 0; i < prospects.size(); i++) {
                Prospect prospect = prospects.get(i);
                views.add(new AskedView(
                        prospect.contract().module(),
                        prospect.version().toString(),
                        ReviewView.ofOrNull(reviews.get(i))));
            }
            return ResponseEntity.ok(new AskedViews(views));
        } catch (Objected e) {
            return ReleasesController.objected(e);
        } catch (VersionTaken e) {
            throw ReleaseWords.taken(e);
        } catch (ReviewClosed e) {
            throw new DeskRefusal(ProblemKind.CONFLICT, e.words());
        }
    }

    @PutMapping(path = "/{id}/decision", consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.PUBLISH)
    ReviewView decide(@PathVariable("id") long id, @RequestBody DecisionRequest request, HttpServletRequest http) {
        Visitor visitor = Visitor.of(http);
        Review review = find(id);
        Review.State decided = switch (request.decision() == null ? "" : request.decision()) {
            case "approve" -> Review.State.APPROVED;
            case "decline" -> Review.State.DECLINED;
            default -> throw new DeskRefusal(ProblemKind.BAD_INPUT, "'decision' is 'approve' or 'decline'.");
        };
        if (!review.hash().equals(request.hash())) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "'hash' is that of the text which was read, as the review shows it; this review is of another text.");
        }
        String words = ReleaseWords.checked("words", request.words());
        if (decided == Review.State.DECLINED && words == null) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'words' say why it is declined; its author reads them.");
        }
        String whyNot = whyNot(review, visitor);
        if (whyNot != null) {
            throw new DeskRefusal(ProblemKind.NOT_ALLOWED, whyNot);
        }
        try {
            return ReviewView.of(records.reviews().decide(id, decided, words, by(visitor.who(), http)));
        } catch (ReviewClosed e) {
            throw new DeskRefusal(ProblemKind.CONFLICT, e.words());
        }
    }

    /** Why somebody is not the second person; null when they are. */
    private static @Nullable String whyNot(Review review, Visitor visitor) {
        String person = visitor.person();
        if (person == null) {
            return "Only a person decides on a review: sign in with a name, not with the administrator's token or as an application.";
        }
        if (person.equalsIgnoreCase(review.askedBy())) {
            return "You asked for this review yourself; somebody else decides on it.";
        }
        return visitor.holds(ServicePrivilege.PUBLISH)
                ? null
                : "Deciding on a review needs the privilege " + ServicePrivilege.PUBLISH.privilege() + ".";
    }

    /** Takes it back: whoever asked for it, or whoever may publish. */
    @DeleteMapping("/{id}")
    @DeskNeeds(ServicePrivilege.EDIT)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void withdraw(@PathVariable("id") long id, HttpServletRequest http) {
        Visitor visitor = Visitor.of(http);
        Review review = find(id);
        if (!visitor.who().equalsIgnoreCase(review.askedBy()) && !visitor.holds(ServicePrivilege.PUBLISH)) {
            throw new DeskRefusal(
                    ProblemKind.NOT_ALLOWED,
                    "Only " + review.askedBy() + ", who asked for it, or somebody who may publish can take it back.");
        }
        try {
            records.reviews().withdraw(id, by(visitor.who(), http));
        } catch (ReviewClosed e) {
            throw new DeskRefusal(ProblemKind.CONFLICT, e.words());
        }
    }

    private Publisher by(String who, HttpServletRequest http) {
        return new Publisher(who, Visitor.of(http).caller().address(), clock.instant());
    }
}
