package tidybridge.service.desk;

import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Routine;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.drafting.DraftChoices;
import tidybridge.core.drafting.Drafting;
import tidybridge.core.drafting.FirstText;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.engine.Source;
import tidybridge.records.AuditEntry;
import tidybridge.records.AuditTrail;
import tidybridge.records.Records;
import tidybridge.service.access.Visitor;
import tidybridge.service.trial.Trial;
import tidybridge.service.trial.Trials;

/**
 * Finds out how many result sets procedures return, which no catalog tells: each is run in a rehearsal, with one more name until none is left without. What
 * it does is undone.
 */
@Component
final class RehearsedResults {

    /** The most result sets that are named. */
    static final int MOST = 8;

    private static final int MOST_ROUTINES = 5;
    private static final int FIRST_PROBLEM = 400;

    private final Trials trials;
    private final AuditTrail trail;
    private final Clock clock;

    RehearsedResults(Trials trials, Records records, Clock clock) {
        this.trials = trials;
        this.trail = records.audit();
        this.clock = clock;
    }

    /** What was seen, and what could not be. */
    record Seen(List<DraftChoices.RoutineChoice> routines, List<FirstText.Note> notes) {}

    /**
     * The routines that were chosen, with the result sets that they return.
     *
     * @param values of arguments by their names; the text's own examples where there is none
     */
    Seen of(DraftChoices choices, Source source, Contents contents, Map<String, String> values, Visitor visitor) {
        Catalog catalog = source.catalog();
        List<FirstText.Note> notes = new ArrayList<>();
        List<DraftChoices.RoutineChoice> seen = new ArrayList<>();
        int run = 0;
        for (DraftChoices.RoutineChoice routine : choices.routines()) {
            boolean procedure = contents.routine(routine.name())
                    .filter(known -> known.kind() == Routine.Kind.PROCEDURE)
                    .isPresent();
            if (procedure && ++run > MOST_ROUTINES) {
                notes.add(new FirstText.Note(
                        routine.name(), "It was not run: " + MOST_ROUTINES + " procedures are run at a time."));
            }
            if (procedure && run <= MOST_ROUTINES) {
                trail.add(new AuditEntry(
                        clock.instant(),
                        visitor.who(),
                        visitor.caller().address(),
                        "rehearse",
                        source.settings().name() + "/" + routine.name(),
                        "to see what it returns"));
            }
            seen.add(
                    procedure && run <= MOST_ROUTINES
                            ? seen(choices, routine.name(), catalog, contents, values, notes)
                            : routine);
        }
        return new Seen(seen, notes);
    }

    private DraftChoices.RoutineChoice seen(
            DraftChoices choices,
            String name,
            Catalog catalog,
            Contents contents,
            Map<String, String> values,
            List<FirstText.Note> notes) {
        for (int results = 0; results <= MOST; results++) {
            DraftChoices.RoutineChoice routine = new DraftChoices.RoutineChoice(name, results);
            FirstText.Added text =
                    Drafting.of(choices.only(routine), catalog, contents).alone("modules/rehearsed/v1");
            Optional<String> operation = text.operations().stream().findFirst();
            if (operation.isEmpty()) {
                return routine;
            }
            Trial trial = tried(text, operation.get(), values);
            Trial.Answer answer = trial.answer();
            if (answer == null || answer.status() >= FIRST_PROBLEM) {
                notes.add(new FirstText.Note(
                        name,
                        "It was run to see what it returns, and refused"
                                + (answer == null ? "" : " with " + answer.status())
                                + "; give values of its arguments that it takes."));
                return new DraftChoices.RoutineChoice(name, 0);
            }
            if (trial.findings().stream().noneMatch(finding -> finding.code() == Code.RESULT_UNNAMED)) {
                return routine;
            }
        }
        notes.add(new FirstText.Note(name, "It returns more than " + MOST + " result sets; name the others yourself."));
        return new DraftChoices.RoutineChoice(name, MOST);
    }

    private Trial tried(FirstText.Added text, String operation, Map<String, String> values) {
        int space = operation.indexOf(' ');
        return trials.run(new Trials.Request(
                text.text(),
                operation.substring(0, space),
                operation.substring(space + 1),
                inputs(text, values),
                null,
                List.of(),
                Trials.somebody(Set.of()),
                false));
    }

    /** What is given for an argument, or else its example. */
    private static Map<String, String> inputs(FirstText.Added text, Map<String, String> values) {
        Map<String, String> inputs = new LinkedHashMap<>();
        ModuleReader.read(text.text(), new Findings()).stream()
                .flatMap(module -> module.routes().stream())
                .flatMap(route -> route.operations().stream())
                .flatMap(operation -> operation.parameters().stream())
                .forEach(parameter -> {
                    String value = values.getOrDefault(parameter.name(), parameter.example());
                    if (value != null) {
                        inputs.put(parameter.name(), value);
                    }
                });
        return inputs;
    }
}
