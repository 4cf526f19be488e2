package tidybridge.bench;

import java.util.List;

/**
 * A line of the result; rates are per second, so more is better everywhere. Each is the mean of many short turns, taken by the
 * contestants one after the other, because a machine's speed changes from one minute to the next.
 *
 * @param peer 0 where there is none
 * @param floor 0 where there is none
 */
record Result(String what, double service, double peer, double floor, String goal) {

    static Result of(String what, List<Double> service, List<Double> peer, List<Double> floor, String goal) {
        return new Result(what, mean(service), mean(peer), mean(floor), goal);
    }

    private static double mean(List<Double> values) {
        return values.stream().mapToDouble(Double::doubleValue).average().orElse(0);
    }

    /** 0 where there is no peer. */
    double toPeer() {
        return peer == 0 ? 0 : service / peer;
    }

    /** 0 where there is no floor. */
    double toFloor() {
        return floor == 0 ? 0 : service / floor;
    }
}
