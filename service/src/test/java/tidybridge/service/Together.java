package tidybridge.service;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/** Things that many do at the same time. */
final class Together {

    private Together() {}

    /** The results of some work that is begun so many times at once. */
    static <T> List<T> atOnce(int count, Callable<T> task) throws Exception {
        try (ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Future<T>> all = new ArrayList<>();
            for (int i = 0; i < count; i++) {
                all.add(threads.submit(task));
            }
            List<T> results = new ArrayList<>();
            for (Future<T> one : all) {
                results.add(one.get());
            }
            return results;
        }
    }
}
