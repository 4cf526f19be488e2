package tidybridge.demo;

/** How much data is made up, in rows. */
public record DemoSize(int berths, int vessels, int bookings, int passages) {

    /** What {@code ./tidy demo} loads. */
    public static final DemoSize FULL = new DemoSize(400, 1_200, 20_000, 500_000);

    /** Enough for tests that need data and not much of it. */
    public static final DemoSize SMALL = new DemoSize(80, 120, 1_500, 6_000);
}
