package tidybridge.core.finding;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import tidybridge.core.text.Place;

/** Collects findings while texts are read and compiled. Not thread-safe. */
public final class Findings {

    private static final Comparator<Finding> BY_PLACE = Comparator.comparing(
                    (Finding finding) -> finding.place().file())
            .thenComparingInt(finding -> finding.place().line())
            .thenComparingInt(finding -> finding.place().column());

    private final List<Finding> list = new ArrayList<>();
    private int errors;

    public void add(Code code, Place place, String message, String remedy) {
        list.add(new Finding(code, place, message, remedy));
        if (code.severity() == Severity.ERROR) {
            errors++;
        }
    }

    /** How many errors there are so far; compare before and after a step to learn whether it failed. */
    public int errors() {
        return errors;
    }

    /** All findings, ordered by file and place. */
    public List<Finding> sorted() {
        return list.stream().sorted(BY_PLACE).toList();
    }
}
