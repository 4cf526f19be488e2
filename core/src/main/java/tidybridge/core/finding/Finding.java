package tidybridge.core.finding;

import tidybridge.core.text.Place;

/**
 * Something noticed in a definition before it runs.
 *
 * @param message one sentence that says what is wrong
 * @param remedy one sentence that says what to do
 */
public record Finding(Code code, Place place, String message, String remedy) {

    public Severity severity() {
        return code.severity();
    }

    public boolean isError() {
        return severity() == Severity.ERROR;
    }
}
