package tidybridge.core.archive;

/** A file is no archive, or not a whole one. The message is one sentence. */
public final class DamagedArchive extends Exception {

    DamagedArchive(String message) {
        super(message, null, false, false);
    }

    @Override
    public String getMessage() {
        return String.valueOf(super.getMessage());
    }
}
