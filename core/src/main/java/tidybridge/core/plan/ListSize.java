package tidybridge.core.plan;

/** Rounds the sizes of lists up, so that a statement has a dozen forms for a list and not a thousand. */
final class ListSize {

    private ListSize() {}

    /** 0 for an empty list, 1 for one item, 2 for two, 3 for three or four, 4 up to eight, and so on. */
    static int ofItems(int items) {
        return items == 0 ? 0 : 33 - Integer.numberOfLeadingZeros(items - 1);
    }

    /** How many question marks a class has. */
    static int marks(int sizeClass) {
        return sizeClass == 0 ? 0 : 1 << sizeClass - 1;
    }
}
