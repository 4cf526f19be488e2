package tidybridge.service.release;

import java.util.List;
import tidybridge.core.compare.Effect;
import tidybridge.records.Review;

/** Why a module may not be published as it is. */
public sealed interface Objection {

    Prospect prospect();

    /** One sentence that says what is wrong and what to do. */
    String words();

    /** It breaks what its callers were promised under the same address, and nobody said why. */
    record Breaking(Prospect prospect) implements Objection {
        @Override
        public String words() {
            return label(prospect) + " breaks what " + base(prospect) + " promises in " + places(breaking(prospect))
                    + ". Publish it as " + prospect.next()
                    + ", which is served beside it, or say why callers must live with it: 'breaking', on the command line --breaking.";
        }
    }

    /** It was published before and something else is live in its place, so publishing it again would take that away. */
    record Earlier(Prospect prospect) implements Objection {
        @Override
        public String words() {
            return label(prospect) + " was published before, and " + base(prospect)
                    + " is live in its place; it breaks what that promises in " + places(breaking(prospect))
                    + ". Make it live again on purpose: './tidy revert "
                    + prospect.contract().module() + " "
                    + prospect.version() + "'.";
        }
    }

    /** It is to be live again, lets callers down, and nobody said why. */
    record Unreasoned(Prospect prospect) implements Objection {
        @Override
        public String words() {
            return "Going back to " + label(prospect) + " breaks what " + base(prospect) + " promises in "
                    + places(breaking(prospect))
                    + ". Say why callers must live with it: 'reason', on the command line --because.";
        }
    }

    /** Its version says less than it should. */
    record VersionTooLow(Prospect prospect) implements Objection {
        @Override
        public String words() {
            return label(prospect) + " follows " + base(prospect)
                    + " with changes that ask for a higher version: write 'version: " + prospect.nextUnderMajor()
                    + "' in its module.yaml.";
        }
    }

    /** It needs the approval of a second person, and has none. */
    record Unapproved(Prospect prospect) implements Objection {
        @Override
        public String words() {
            Review last = prospect.approval().last();
            String needs = label(prospect) + " needs the approval of a second person. ";
            return needs
                    + (last == null
                            ? "Ask for it: './tidy publish --ask-review', or POST /desk/reviews."
                            : since(last, prospect.isOfWhatIsLive(last)));
        }

        private static String since(Review last, boolean isOfWhatIsLive) {
            String review = "Review " + last.id();
            String again = " Ask for it anew with --ask-review.";
            return switch (last.state()) {
                case OPEN, APPROVED ->
                    isOfWhatIsLive
                            ? review + " waits for somebody other than " + last.askedBy() + ": './tidy review approve "
                                    + last.id() + "'."
                            : review + " is of what is not live any more." + again;
                case DECLINED -> {
                    Review.Decision decision = last.decision();
                    yield review + " was declined"
                            + (decision == null
                                    ? "."
                                    : " by " + decision.by()
                                            + (decision.words() == null ? "." : ": " + decision.words()))
                            + again;
                }
                case WITHDRAWN, PUBLISHED -> review + " counts no more." + again;
            };
        }
    }

    private static int breaking(Prospect prospect) {
        return prospect.compared().orElseThrow().of(Effect.BREAKING).size();
    }

    private static String places(int count) {
        return count + (count == 1 ? " place" : " places");
    }

    private static String label(Prospect prospect) {
        return prospect.contract().module() + " " + prospect.version();
    }

    private static String base(Prospect prospect) {
        return prospect.base() == null ? "nothing" : prospect.base().version().toString();
    }

    /** The sentences of several. */
    static String words(List<Objection> objections) {
        return String.join(" ", objections.stream().map(Objection::words).toList());
    }
}
