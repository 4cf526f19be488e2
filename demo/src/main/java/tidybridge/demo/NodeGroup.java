package tidybridge.demo;

import java.util.ArrayList;
import java.util.List;

/** Several nodes, stopped together. One that ends is started again, so that people can see what its end is like. Thread-safe. */
final class NodeGroup implements Part {

    private final List<ServiceProcess> nodes = new ArrayList<>();

    synchronized void add(ServiceProcess node) {
        nodes.add(node);
    }

    @Override
    public synchronized boolean isRunning() {
        return nodes.stream().allMatch(ServiceProcess::isRunning);
    }

    @Override
    public synchronized boolean revive() {
        boolean all = true;
        for (ServiceProcess node : nodes) {
            all &= node.isRunning() || node.startAgain();
        }
        return all;
    }

    @Override
    public synchronized String ending() {
        return nodes.stream()
                .filter(node -> !node.isRunning())
                .map(Part::ending)
                .findFirst()
                .orElse("A node ended.");
    }

    /** Each goes on for a moment after it was told to end, so they are told at once. */
    @Override
    public synchronized void close() {
        nodes.forEach(ServiceProcess::tellToEnd);
        nodes.forEach(ServiceProcess::close);
    }
}
