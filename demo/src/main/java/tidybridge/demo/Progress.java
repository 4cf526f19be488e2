package tidybridge.demo;

import java.io.PrintStream;
import java.util.concurrent.TimeUnit;

/** Prints the steps of a start, each with what it took. On a terminal a percentage moves; elsewhere only whole lines are printed. */
final class Progress {

    private static final int WIDTH = 34;

    private final PrintStream out;
    private final boolean moving = System.console() != null && System.console().isTerminal();
    private String step = "";
    private long begin;

    Progress(PrintStream out) {
        this.out = out;
    }

    void begin(String name) {
        step = name;
        begin = System.nanoTime();
        if (moving) {
            out.print(padded());
            out.flush();
        }
    }

    void percent(int percent) {
        if (moving) {
            out.print("\r" + padded() + " " + percent + " %");
            out.flush();
        }
    }

    void done(String result) {
        double seconds = TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - begin) / 1000.0;
        out.printf("%s%s %5.1f s  %s%n", moving ? "\r" : "", padded(), seconds, result);
    }

    private String padded() {
        return step + " " + ".".repeat(Math.max(2, WIDTH - step.length()));
    }
}
