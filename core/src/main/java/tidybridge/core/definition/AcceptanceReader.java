package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.finding.Severity;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Node;

/** Reads {@code accept: { code: reason }}. */
final class AcceptanceReader {

    private final Findings findings;

    AcceptanceReader(Findings findings) {
        this.findings = findings;
    }

    List<Acceptance> read(MappingReader keys) {
        List<Acceptance> accepted = new ArrayList<>();
        Node node = keys.node("accept");
        if (node != null) {
            MappingReader.openAny(node, "accept", findings).ifPresent(codes -> {
                for (Node.Entry entry : codes.entries()) {
                    String reason = codes.text(entry.key());
                    if (fits(entry) && reason != null) {
                        accepted.add(new Acceptance(entry.key(), reason, entry.place()));
                    }
                }
            });
        }
        return accepted;
    }

    private boolean fits(Node.Entry entry) {
        Optional<Code> code = Code.labelled(entry.key());
        if (code.isEmpty()) {
            List<String> known = Arrays.stream(Code.values()).map(Code::label).toList();
            findings.add(
                    Code.ACCEPTANCE_UNFIT,
                    entry.place(),
                    "There is no finding '" + entry.key() + "'." + Nearest.hint(entry.key(), known),
                    "Write the code of a finding, as './tidy check' shows it.");
            return false;
        }
        if (code.get().severity() == Severity.ERROR) {
            findings.add(
                    Code.ACCEPTANCE_UNFIT,
                    entry.place(),
                    "The finding '" + entry.key() + "' is an error, which cannot be accepted.",
                    "Mend what it names.");
            return false;
        }
        return true;
    }
}
