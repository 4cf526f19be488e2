package tidybridge.core.finding;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/** Collects findings while texts are read and compiled. Not thread-safe. */
public final class Findings {

    private static final Comparator<Finding> BY_PLACE = Comparator.comparing(
                    (Finding finding) -> finding.place().file())
            .thenComparingInt(finding -> finding.place().line())
            .thenComparingInt(finding -> finding.place().column());

    private final List<Finding> list = new ArrayList<>();
    private @Nullable String operation;
    private int errors;

    public void add(Code code, Place place, String message, String remedy) {
        list.add(new Finding(code, place, message, remedy, operation, null));
        if (code.severity() == Severity.ERROR) {
            errors++;
        }
    }

    /** Adds what another collector found. */
    public void addAll(Findings others) {
        list.addAll(others.list);
        errors += others.errors;
    }

    /** Does something whose findings concern one operation. */
    public void of(String operation, Runnable work) {
        String before = this.operation;
        this.operation = operation;
        try {
            work.run();
        } finally {
            this.operation = before;
        }
    }

    /**
     * Marks what texts accept.
     *
     * @param reason the reason for accepting a finding, empty for one that stands
     */
    public void accept(Function<Finding, Optional<String>> reason) {
        list.replaceAll(finding -> finding.isError()
                ? finding
                : reason.apply(finding).map(finding::acceptedFor).orElse(finding));
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
