package tidybridge.core.compare;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Needs;
import tidybridge.core.access.Quota;
import tidybridge.core.contract.AdmissionTerms;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;

/**
 * What a caller of an earlier release meets in a later one. Where nobody can tell whether something is harmless, it counts as breaking.
 *
 * @param differences the gravest first, then in the order of the operations
 */
public record Comparison(List<Difference> differences) {

    public Comparison {
        differences = List.copyOf(differences);
    }

    /** Compares what two releases promise; their versions do not count. */
    public static Comparison of(Contract earlier, Contract later) {
        Differences found = new Differences();
        compareModules(earlier, later, found);
        Map<String, OperationTerms> all = byShape(later);
        Map<String, OperationTerms> known = byShape(earlier);
        known.forEach((shape, before) -> {
            OperationTerms now = all.get(shape);
            found.about(now == null ? before.label() : now.label());
            if (now == null) {
                found.add(DifferenceKind.OPERATION_REMOVED, "It is gone.");
            } else {
                compare(before, now, found);
            }
        });
        all.forEach((shape, now) -> {
            if (!known.containsKey(shape)) {
                found.about(now.label());
                found.add(DifferenceKind.OPERATION_ADDED, "It is new.");
            }
        });
        return sorted(found.all());
    }

    /** The operations by what tells them apart, whatever their placeholders are called, in the order of the text. */
    private static Map<String, OperationTerms> byShape(Contract contract) {
        Map<String, OperationTerms> operations = new LinkedHashMap<>();
        contract.operations().forEach(operation -> operations.put(operation.shape(), operation));
        return operations;
    }

    /** The same with what changed in the text where no caller can see it. */
    public Comparison withTexts(ModuleText earlier, ModuleText later) {
        List<String> changed = new ArrayList<>();
        for (String file : union(earlier, later)) {
            if (!Objects.equals(earlier.files().get(file), later.files().get(file))) {
                changed.add(file);
            }
        }
        if (changed.isEmpty() || !differences.isEmpty()) {
            return this;
        }
        String files = String.join(", ", changed);
        return new Comparison(List.of(new Difference(
                DifferenceKind.TEXT_CHANGED,
                null,
                "The text differs in " + files + "; callers are promised the same.")));
    }

    private static List<String> union(ModuleText earlier, ModuleText later) {
        List<String> files = new ArrayList<>(earlier.files().keySet());
        later.files().keySet().stream()
                .filter(file -> !earlier.files().containsKey(file))
                .forEach(files::add);
        return files;
    }

    private static Comparison sorted(List<Difference> all) {
        List<Difference> sorted = new ArrayList<>(all);
        sorted.sort(Comparator.comparing(Difference::effect));
        return new Comparison(sorted);
    }

    /** The gravest effect; empty when nothing differs. */
    public Optional<Effect> effect() {
        return differences.stream().map(Difference::effect).min(Comparator.naturalOrder());
    }

    /** True when some caller of the earlier release is let down. */
    public boolean isBreaking() {
        return effect().filter(Effect.BREAKING::equals).isPresent();
    }

    /** Those of one effect. */
    public List<Difference> of(Effect effect) {
        return differences.stream()
                .filter(difference -> difference.effect() == effect)
                .toList();
    }

    /** The least version that the later release should have, by semantic versioning; the earlier one when nothing differs. */
    public Version nextAfter(Version earlier) {
        return effect().map(effect -> effect.after(earlier)).orElse(earlier);
    }

    private static void compareModules(Contract earlier, Contract later, Differences found) {
        compareAdmission(earlier.admission(), later.admission(), found);
        compareDeprecation("The module", earlier.deprecated(), later.deprecated(), found);
        if (!earlier.title().equals(later.title()) || !Objects.equals(earlier.about(), later.about())) {
            found.add(DifferenceKind.WORDS_CHANGED, "What the reference says of the module is worded anew.");
        }
        if (!earlier.found().equals(later.found())) {
            found.add(DifferenceKind.LISTING_CHANGED, "Its owner, its tags or who finds it in the directory changed.");
        }
    }

    private static void compareAdmission(AdmissionTerms before, AdmissionTerms now, Differences found) {
        if (!before.addresses().equals(now.addresses())) {
            boolean wider = now.addresses().isEmpty()
                    || !before.addresses().isEmpty() && now.addresses().containsAll(before.addresses());
            found.add(
                    wider ? DifferenceKind.ADMISSION_WIDENED : DifferenceKind.ADMISSION_NARROWED,
                    "It may be called from "
                            + (now.addresses().isEmpty() ? "every address" : String.join(", ", now.addresses()))
                            + " now.");
        }
        found.addIf(
                before.tls(),
                now.tls(),
                DifferenceKind.ADMISSION_WIDENED,
                "It may be called without transport security now.",
                DifferenceKind.ADMISSION_NARROWED,
                "It is called over transport security only.");
        found.addMembers(
                before.origins(),
                now.origins(),
                DifferenceKind.ADMISSION_NARROWED,
                "Pages from {} may no longer call it.",
                DifferenceKind.ADMISSION_WIDENED,
                "Pages from {} may call it now.");
        compareQuotas(before.quota(), now.quota(), found);
    }

    private static void compare(OperationTerms before, OperationTerms now, Differences found) {
        if (!before.id().equals(now.id())) {
            found.add(
                    DifferenceKind.OPERATION_RENAMED,
                    "The reference calls it '" + now.id() + "' and no longer '" + before.id()
                            + "'; client code that is generated anew has the other name.");
        }
        if (!before.path().equals(now.path())) {
            found.add(DifferenceKind.PLACEHOLDER_RENAMED, "The path was written " + before.path() + " before.");
        }
        compareNeeds(before.needs(), now.needs(), found);
        compareQuotas(before.quota(), now.quota(), found);
        compareDeprecation("It", before.deprecated(), now.deprecated(), found);
        new InputComparison(found).compare(before, now);
        new PageComparison(found).compare(before, now);
        new AnswerComparison(found).compare(before, now);
        if (!Objects.equals(before.about(), now.about())) {
            found.add(DifferenceKind.WORDS_CHANGED, "What the reference says of it is worded anew.");
        }
    }

    private static void compareNeeds(Needs before, Needs now, Differences found) {
        if (before.equals(now)) {
            return;
        }
        boolean wider = now.open() || !before.open() && now.anyOf().containsAll(before.anyOf());
        if (wider && !before.open() && !now.open() && before.anyOf().containsAll(now.anyOf())) {
            return;
        }
        String needed = now.open()
                ? "Anybody may call it now."
                : now.anyOf().isEmpty()
                        ? "Only holders of every privilege may call it now."
                        : "It needs the privilege " + String.join(", or ", now.anyOf()) + " now"
                                + (before.open()
                                        ? "; anybody could call it before."
                                        : before.anyOf().isEmpty()
                                                ? "; only holders of every privilege could call it before."
                                                : " in place of " + String.join(", or ", before.anyOf()) + ".");
        found.add(wider ? DifferenceKind.PRIVILEGE_RELAXED : DifferenceKind.PRIVILEGE_ADDED, needed);
    }

    private static void compareQuotas(@Nullable Quota before, @Nullable Quota now, Differences found) {
        if (Objects.equals(before, now)) {
            return;
        }
        String words = now == null
                ? "It may be called as often as anybody likes now."
                : "It may be called " + now + " now" + (before == null ? "." : ", in place of " + before + ".");
        found.add(isWider(before, now) ? DifferenceKind.QUOTA_RAISED : DifferenceKind.QUOTA_LOWERED, words);
    }

    private static boolean isWider(@Nullable Quota before, @Nullable Quota now) {
        if (now == null || before == null) {
            return now == null;
        }
        boolean calls = now.calls() == 0
                || before.calls() > 0 && now.per().equals(before.per()) && now.calls() >= before.calls();
        boolean concurrent =
                now.concurrent() == 0 || before.concurrent() > 0 && now.concurrent() >= before.concurrent();
        return calls && concurrent && (before.together() || !now.together());
    }

    /**
     * Compares what is said of an end.
     *
     * @param what begins the sentence
     */
    static void compareDeprecation(
            String what, @Nullable Deprecation before, @Nullable Deprecation now, Differences found) {
        if (Objects.equals(before, now)) {
            return;
        }
        LocalDate promised = before == null ? null : before.ends();
        LocalDate ends = now == null ? null : now.ends();
        if (promised != null && ends != null && ends.isBefore(promised)) {
            found.add(
                    DifferenceKind.END_EARLIER,
                    what + " ends on " + ends + ", earlier than was announced: " + promised + ".");
        } else {
            found.add(
                    DifferenceKind.DEPRECATION_CHANGED,
                    now == null
                            ? what + " is no longer deprecated."
                            : what + " is deprecated" + (ends == null ? "." : " and ends on " + ends + "."));
        }
    }
}
