package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonRawValue;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.function.LongFunction;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.compare.TextComparison;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.records.KeptContract;
import tidybridge.records.LiveChange;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.ReleaseEntry;
import tidybridge.service.desk.ReviewViews.ReviewView;
import tidybridge.service.desk.Views.DriftNoteView;
import tidybridge.service.release.Drift;
import tidybridge.service.release.FindingNote;
import tidybridge.service.release.Objection;
import tidybridge.service.release.Prospect;

/** What the management API shows of releases. Absent values are left out. */
final class ReleaseViews {

    private ReleaseViews() {}

    /**
     * A release without its text.
     *
     * @param drift what no longer fits its database; absent for one that is not live, or was not looked at yet
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ReleaseView(
            long id,
            String name,
            int major,
            String version,
            String hash,
            String publishedBy,
            Instant publishedAt,
            boolean live,
            @Nullable String comparedWith,
            @Nullable String note,
            @Nullable String breaking,
            @Nullable String from,
            @Nullable List<DifferenceNote> differences,
            @Nullable List<DriftNoteView> drift) {

        static ReleaseView of(ReleaseEntry release) {
            return of(release, null);
        }

        static ReleaseView of(ReleaseEntry release, @Nullable Drift drift) {
            return new ReleaseView(
                    release.id(),
                    release.module(),
                    release.version().major(),
                    release.version().toString(),
                    release.hash(),
                    release.publishedBy(),
                    release.publishedAt(),
                    release.live(),
                    release.comparedWith() == null
                            ? null
                            : release.comparedWith().toString(),
                    release.note(),
                    release.breaksBecause(),
                    release.cameFrom(),
                    release.differences() == null ? null : DifferenceNote.read(release.differences()),
                    drift == null ? null : DriftNoteView.of(drift));
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record LiveChangeView(
            int major,
            @Nullable String version,
            String kind,
            @Nullable String reason,
            String by,
            Instant at) {

        static LiveChangeView of(LiveChange change) {
            return new LiveChangeView(
                    change.major(),
                    change.version() == null ? null : change.version().toString(),
                    change.kind().name().toLowerCase(Locale.ROOT),
                    change.reason(),
                    change.by(),
                    change.at());
        }
    }

    /** What was published of a module, and what was live of it; the newest first. */
    record HistoryView(String name, List<ReleaseView> releases, List<LiveChangeView> changes) {
        static HistoryView of(
                String name,
                List<ReleaseEntry> releases,
                List<LiveChange> changes,
                LongFunction<@Nullable Drift> drift) {
            return new HistoryView(
                    name,
                    releases.stream()
                            .map(release -> ReleaseView.of(release, drift.apply(release.id())))
                            .toList(),
                    changes.stream().map(LiveChangeView::of).toList());
        }
    }

    /**
     * A release with its text; {@code contract} is absent for one that was published before contracts were kept.
     *
     * @param drift what no longer fits its database; empty for one that is not live
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ReleaseDetail(
            String name,
            String version,
            String publishedBy,
            Instant publishedAt,
            @Nullable String note,
            @Nullable String breaking,
            @Nullable String from,
            ModuleTexts.TextView text,
            @JsonRawValue @Nullable String contract,
            @JsonRawValue @Nullable String catalog,
            List<FindingNote> findings,
            List<DriftNoteView> drift) {

        static ReleaseDetail of(Release release, @Nullable KeptContract kept, @Nullable Drift drift) {
            return new ReleaseDetail(
                    release.module(),
                    release.version().toString(),
                    release.publishedBy(),
                    release.publishedAt(),
                    kept == null ? null : kept.note(),
                    kept == null ? null : kept.breaksBecause(),
                    kept == null ? null : kept.cameFrom(),
                    new ModuleTexts.TextView(
                            release.text().folder(), release.text().files()),
                    kept == null ? null : kept.contract(),
                    kept == null ? null : kept.catalog(),
                    kept == null ? List.of() : FindingNote.read(kept.findings()),
                    DriftNoteView.of(drift));
        }
    }

    /**
     * What publishing a text would mean.
     *
     * @param replaces the version that is live under its major version
     * @param comparedWith the version it is compared with
     * @param next the version it should have
     * @param objection why it may not be published as it is
     * @param needsApproval whether a second person must approve it
     * @param review what was asked last for its text
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ProspectView(
            String name,
            int major,
            String version,
            @Nullable String replaces,
            @Nullable String comparedWith,
            String next,
            @Nullable String objection,
            boolean needsApproval,
            @Nullable ReviewView review,
            boolean breaks,
            List<DifferenceNote> differences,
            List<FileView> files,
            List<FindingNote> findings,
            @JsonRawValue String contract) {

        static ProspectView of(Prospect prospect, @Nullable Objection objection, List<FileView> files) {
            return new ProspectView(
                    prospect.contract().module(),
                    prospect.version().major(),
                    prospect.version().toString(),
                    prospect.live() == null ? null : prospect.live().version().toString(),
                    ReleaseWords.version(prospect.base()),
                    prospect.next().toString(),
                    objection == null ? null : objection.words(),
                    prospect.approval().needed(),
                    ReviewView.ofOrNull(prospect.approval().last()),
                    prospect.breaks(),
                    prospect.compared().map(DifferenceNote::of).orElse(List.of()),
                    files,
                    FindingNote.of(prospect.compiled().findings()),
                    prospect.contract().text());
        }
    }

    /** A module that may not be published as it is. */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ObjectionView(
            String name,
            String version,
            @Nullable String comparedWith,
            String next,
            String code,
            String detail,
            List<DifferenceNote> differences) {

        static ObjectionView of(Objection objection) {
            Prospect prospect = objection.prospect();
            return new ObjectionView(
                    prospect.contract().module(),
                    prospect.version().toString(),
                    ReleaseWords.version(prospect.base()),
                    prospect.next().toString(),
                    switch (objection) {
                        case Objection.Breaking breaking -> "breaking";
                        case Objection.Unreasoned unreasoned -> "breaking";
                        case Objection.Earlier earlier -> "earlier";
                        case Objection.VersionTooLow low -> "version-too-low";
                        case Objection.Unapproved unapproved -> "not-approved";
                    },
                    objection.words(),
                    prospect.compared().map(DifferenceNote::of).orElse(List.of()));
        }
    }

    /** A file whose text differs; {@code pieces} is empty for one that is too long to be compared line by line. */
    record FileView(String file, String state, List<PieceView> pieces) {
        /** What differs from a release; nothing where there is none. */
        static List<FileView> since(Records records, @Nullable Version before, String module, ModuleText now) {
            return before == null
                    ? List.of()
                    : records.releases()
                            .find(module, before)
                            .map(release -> of(TextComparison.of(release.text(), now)))
                            .orElse(List.of());
        }

        static List<FileView> of(TextComparison comparison) {
            return comparison.files().stream()
                    .map(file -> new FileView(
                            file.file(),
                            file.state().name().toLowerCase(Locale.ROOT),
                            file.pieces().stream().map(PieceView::of).toList()))
                    .toList();
        }
    }

    record PieceView(List<LineView> lines) {
        static PieceView of(TextComparison.Piece piece) {
            return new PieceView(piece.lines().stream()
                    .map(line -> new LineView(line.before(), line.now(), line.text()))
                    .toList());
        }
    }

    /** A line; without {@code before} it is new, without {@code now} it is gone. */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record LineView(@Nullable Integer before, @Nullable Integer now, String text) {}
}
