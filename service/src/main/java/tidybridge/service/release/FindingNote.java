package tidybridge.service.release;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Finding;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** A finding as it is kept with a release and travels in the management API. */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record FindingNote(
        String code,
        String severity,
        String file,
        int line,
        int column,
        String message,
        String remedy,
        @Nullable String operation,
        @Nullable String accepted) {

    public static FindingNote of(Finding finding) {
        return new FindingNote(
                finding.code().label(),
                finding.severity().name().toLowerCase(Locale.ROOT),
                finding.place().file(),
                finding.place().line(),
                finding.place().column(),
                finding.message(),
                finding.remedy(),
                finding.operation(),
                finding.accepted());
    }

    /** Several in their order. */
    public static List<FindingNote> of(List<Finding> findings) {
        return findings.stream().map(FindingNote::of).toList();
    }

    /** As JSON. */
    static String write(List<Finding> findings) {
        return JsonMapper.shared().writeValueAsString(of(findings));
    }

    /** What was kept with a release. */
    public static List<FindingNote> read(String json) {
        return JsonMapper.shared().readValue(json, new TypeReference<>() {});
    }
}
