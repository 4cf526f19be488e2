package tidybridge.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.plan.VariantCache.Form;

/** The forms of statements that are kept: written once while they are used, and never without bound. */
class VariantCacheTest {

    private final VariantCache cache = new VariantCache();
    private final AtomicInteger written = new AtomicInteger();

    private static VariantCache.Given given(long low) {
        return new VariantCache.Given(low, 0);
    }

    private Variant get(Form form) {
        return cache.get(form, wanted -> {
            written.incrementAndGet();
            return new Variant("select " + wanted.given(), new int[0]);
        });
    }

    @Test
    void aFormIsToldByWhatIsGivenItsPageAndTheSizesOfItsLists() {
        PageOrder order = new PageOrder(List.of(new PageOrder.Key("id", 0, FieldType.INTEGER, false)));
        PageOrder other = new PageOrder(order.keys());
        List<Form> forms = List.of(
                Form.withoutLists(given(0), null),
                Form.withoutLists(given(1), null),
                Form.withoutLists(given(1), order.from(Start.BEGINNING)),
                Form.withoutLists(given(1), order.from(Start.AFTER_TIES)),
                Form.withoutLists(given(1), other.from(Start.BEGINNING)),
                new Form(given(1), null, new int[] {1}),
                new Form(given(1), null, new int[] {2}),
                new Form(given(1), null, new int[] {2, 1}));
        forms.forEach(this::get);
        assertThat(written).hasValue(forms.size());
        assertThat(get(new Form(given(1), null, new int[] {2}))).isSameAs(get(new Form(given(1), null, new int[] {2})));
        assertThat(order.from(Start.BEGINNING)).isSameAs(order.from(Start.BEGINNING));
        assertThat(written).hasValue(forms.size());
    }

    @Test
    void asManySwitchesAsTwoWordsHaveAreToldApart() {
        for (int count : new int[] {0, 1, 63, 64, 65, 128}) {
            VariantCache.Given first = VariantCache.Given.first(count);
            for (int i = 0; i < StatementPlan.MOST_SWITCHES; i++) {
                assertThat(first.has(i)).as("%d of the first %d", i, count).isEqualTo(i < count);
                VariantCache.Given only = VariantCache.Given.only(i);
                assertThat(only.has(i)).isTrue();
                assertThat(only.has((i + 64) % 128)).isFalse();
            }
        }
    }

    @Test
    void longFormsMakeRoomSooner() {
        String text = "x".repeat(10_000);
        int fitting = (int) (2 * VariantCache.MOST_CHARS / text.length());
        for (int i = 0; i < 3 * fitting; i++) {
            cache.get(Form.withoutLists(given(i), null), wanted -> new Variant(text, new int[0]));
        }
        int before = written.get();
        for (int i = 0; i < 3 * fitting; i++) {
            get(Form.withoutLists(given(i), null));
        }
        assertThat(written.get() - before).as("let go").isGreaterThanOrEqualTo(2 * fitting - 1);
    }

    @Test
    void whatIsUsedStaysHoweverManyOthersAreAskedFor() {
        Variant used = get(Form.withoutLists(given(-1), null));
        for (int i = 0; i < 10 * VariantCache.MOST; i++) {
            get(Form.withoutLists(given(i), null));
            if (i % 100 == 0) {
                assertThat(get(Form.withoutLists(given(-1), null))).isSameAs(used);
            }
        }
        int before = written.get();
        IntStream.range(0, VariantCache.MOST).forEach(i -> get(Form.withoutLists(given(i), null)));
        assertThat(written.get() - before).as("the first ones were let go").isEqualTo(VariantCache.MOST);
    }

    @Test
    void manyWhoMeetAtANewFormGetTheSame() throws Exception {
        Set<Variant> seen = ConcurrentHashMap.newKeySet();
        try (ExecutorService threads = Executors.newFixedThreadPool(8)) {
            List<Future<Boolean>> all = IntStream.range(0, 64)
                    .mapToObj(i -> threads.submit(() -> seen.add(get(Form.withoutLists(given(7), null)))))
                    .toList();
            for (Future<Boolean> one : all) {
                one.get();
            }
        }
        // records of equal text would hide two objects, so identities are counted
        assertThat(seen.stream().map(System::identityHashCode).distinct()).hasSize(1);
    }
}
