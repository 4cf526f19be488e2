package tidybridge.core.finding;

/** How much a finding weighs; the heaviest first. */
public enum Severity {
    /** Nothing is published while one of these stands. */
    ERROR,
    /** Will probably surprise somebody; publishing goes on. */
    WARNING,
    /** Would be better otherwise. */
    ADVICE
}
