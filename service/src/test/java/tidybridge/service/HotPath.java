package tidybridge.service;

import com.tngtech.archunit.core.domain.AccessTarget;
import com.tngtech.archunit.core.domain.JavaCall;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaCodeUnit;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;

/**
 * Follows the calls of our own code from an entry, through interfaces to everything that implements them, and finds what a request must not
 * do on its way: streams, formatting, patterns and statements made anew.
 */
final class HotPath {

    private static final Pattern SLOW = Pattern.compile(
            "java\\.util\\.stream\\..*|java\\.lang\\.String\\.(format|formatted|matches|replaceAll|replaceFirst)"
                    + "|java\\.util\\.regex\\.Pattern\\.(compile|matches)|java\\.text\\..*|java\\.util\\.Formatter\\..*"
                    + "|java\\.lang\\.reflect\\..*|java\\.util\\.\\w+\\.(stream|parallelStream)"
                    + "|java\\.util\\.(List|Set|Map)\\.copyOf");

    private final JavaClasses classes;
    private final Pattern cold;
    private final Map<JavaCodeUnit, JavaCodeUnit> reachedFrom = new HashMap<>();
    private final Set<String> found = new TreeSet<>();

    /**
     * Prepares to follow calls.
     *
     * @param cold methods that a good request never reaches, or not again: their calls are not followed
     */
    HotPath(JavaClasses classes, String cold) {
        this.classes = classes;
        this.cold = Pattern.compile(cold);
    }

    /** What is found from a method, each with the method that does it; nothing when all is well. */
    Set<String> slowThings(String className, String methodName) {
        Deque<JavaCodeUnit> open = new ArrayDeque<>();
        classes.get(className).getAllMethods().stream()
                .filter(method -> method.getName().equals(methodName))
                .forEach(open::add);
        Set<JavaCodeUnit> seen = new LinkedHashSet<>(open);
        while (!open.isEmpty()) {
            JavaCodeUnit unit = open.poll();
            for (JavaCall<?> call : unit.getCallsFromSelf()) {
                String target =
                        call.getTargetOwner().getName() + "." + call.getTarget().getName();
                if (SLOW.matcher(target).matches()) {
                    found.add(name(unit) + " calls " + target + way(unit));
                }
                for (JavaCodeUnit next : targets(call)) {
                    if (!cold.matcher(name(next)).matches() && seen.add(next)) {
                        reachedFrom.put(next, unit);
                        open.add(next);
                    }
                }
            }
        }
        return found;
    }

    private String way(JavaCodeUnit unit) {
        StringBuilder way = new StringBuilder();
        for (JavaCodeUnit from = reachedFrom.get(unit); from != null; from = reachedFrom.get(from)) {
            way.append(" <- ").append(name(from));
        }
        return way.toString();
    }

    private static String name(JavaCodeUnit unit) {
        return unit.getOwner().getName().replaceFirst("^tidybridge\\.", "") + "." + unit.getName();
    }

    /** Our own methods that a call may end in. */
    private static List<JavaCodeUnit> targets(JavaCall<?> call) {
        JavaClass owner = call.getTargetOwner();
        if (!owner.getPackageName().startsWith("tidybridge")) {
            return List.of();
        }
        AccessTarget.CodeUnitCallTarget target = call.getTarget();
        Set<JavaClass> places = new LinkedHashSet<>(owner.getAllSubclasses());
        places.add(owner);
        places.addAll(owner.getAllRawSuperclasses());
        return places.stream()
                .filter(place -> place.getPackageName().startsWith("tidybridge"))
                .flatMap(place -> place.getCodeUnits().stream())
                .filter(unit -> unit.getName().equals(target.getName())
                        && unit.getRawParameterTypes().size()
                                == target.getRawParameterTypes().size())
                .toList();
    }
}
