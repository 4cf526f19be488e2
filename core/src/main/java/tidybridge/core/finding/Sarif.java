package tidybridge.core.finding;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** Writes findings in the Static Analysis Results Interchange Format 2.1.0 (OASIS), which review tools read. */
public final class Sarif {

    private static final String SCHEMA =
            "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json";
    private static final JsonMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private Sarif() {}

    /**
     * The document as JSON.
     *
     * @param version of the program
     */
    public static String of(List<Finding> findings, String version) {
        TreeSet<Code> codes = new TreeSet<>();
        findings.forEach(finding -> codes.add(finding.code()));
        Map<String, Object> driver = map(
                "name",
                "Tidy Bridge",
                "version",
                version,
                "rules",
                codes.stream().map(Sarif::rule).toList());
        Map<String, Object> run = map(
                "tool",
                map("driver", driver),
                "columnKind",
                "utf16CodeUnits",
                "results",
                findings.stream().map(Sarif::result).toList());
        return JSON.writeValueAsString(map("$schema", SCHEMA, "version", "2.1.0", "runs", List.of(run)));
    }

    private static Map<String, Object> rule(Code code) {
        String page = CodePage.of(code);
        String text = page.substring(page.indexOf(" - ") + " - ".length());
        return map(
                "id",
                code.label(),
                "shortDescription",
                map("text", text.lines().findFirst().orElse("")),
                "help",
                map("text", text, "markdown", text),
                "defaultConfiguration",
                map("level", level(code.severity())));
    }

    private static Map<String, Object> result(Finding finding) {
        Map<String, Object> location =
                map("artifactLocation", map("uri", finding.place().file()));
        if (finding.place().line() > 0) {
            location.put(
                    "region",
                    map(
                            "startLine",
                            finding.place().line(),
                            "startColumn",
                            finding.place().column()));
        }
        Map<String, Object> result = map(
                "ruleId",
                finding.code().label(),
                "level",
                level(finding.severity()),
                "message",
                map("text", finding.message() + " " + finding.remedy()),
                "locations",
                List.of(map("physicalLocation", location)));
        List<Object> suppressions = new ArrayList<>();
        String accepted = finding.accepted();
        if (accepted != null) {
            suppressions.add(map("kind", "inSource", "justification", accepted));
        }
        result.put("suppressions", suppressions);
        return result;
    }

    private static String level(Severity severity) {
        return switch (severity) {
            case ERROR -> "error";
            case WARNING -> "warning";
            case ADVICE -> "note";
        };
    }

    private static Map<String, Object> map(Object... pairs) {
        Map<String, Object> map = new LinkedHashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            map.put((String) pairs[i], pairs[i + 1]);
        }
        return map;
    }
}
