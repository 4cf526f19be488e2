package tidybridge.service.desk;

import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.KeptContract;
import tidybridge.records.LiveMoved;
import tidybridge.records.ReleaseEntry;
import tidybridge.records.VersionTaken;
import tidybridge.service.release.Publishing;

/** Words that people say of releases, and that are said to them. */
final class ReleaseWords {

    private ReleaseWords() {}

    /** A note or a reason that fits the records; what is blank is none. */
    static @Nullable String checked(String name, @Nullable String words) {
        if (words == null || words.isBlank()) {
            return null;
        }
        String text = words.strip();
        if (text.codePointCount(0, text.length()) > KeptContract.LONGEST_WORDS) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "'" + name + "' has " + KeptContract.LONGEST_WORDS + " characters at most.");
        }
        return text;
    }

    /** Where a release came from; what is blank is nowhere. */
    static @Nullable String origin(@Nullable String from) {
        String text = from == null ? "" : from.strip();
        if (text.length() > KeptContract.LONGEST_ORIGIN) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "'from' has " + KeptContract.LONGEST_ORIGIN + " characters at most.");
        }
        return text.isEmpty() ? null : text;
    }

    static @Nullable String version(@Nullable ReleaseEntry entry) {
        return entry == null ? null : entry.version().toString();
    }

    /** What whoever publishes or asks says of it, as far as it fits the records. */
    static Publishing.Words words(ReleasesController.PublishRequest request) {
        return new Publishing.Words(
                checked("note", request.note()), checked("breaking", request.breaking()), origin(request.from()));
    }

    static DeskRefusal taken(VersionTaken e) {
        return new DeskRefusal(
                ProblemKind.CONFLICT,
                e.module() + " " + e.version()
                        + " is published already with another text, and a release never changes; raise 'version' in its module.yaml.");
    }

    static DeskRefusal moved(LiveMoved e) {
        return new DeskRefusal(
                ProblemKind.CONFLICT, e.getMessage() + ". Nothing was changed; compare again and repeat it.");
    }
}
