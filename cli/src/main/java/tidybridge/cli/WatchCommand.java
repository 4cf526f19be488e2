package tidybridge.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Workspace;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Severity;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy watch --folder FOLDER} */
@Command(
        name = "watch",
        description = {
            "Check a workspace whenever a file is saved, and send what changed to the service as a draft.",
            "With an operation, it is run after each save, and its answer shown anew; what changes data is rehearsed."
        },
        footer = {
            "",
            "Ends with Ctrl-C. A draft that somebody else changed is not touched; you are told.",
            "",
            "Examples:",
            "  ./tidy watch --folder ~/bridge",
            "  ./tidy watch moorings/v1 GET /berths from=2031-05-01 until=2031-05-04 --folder ~/bridge"
        })
final class WatchCommand extends ServiceCommand {

    private static final long LOOK_MILLIS = 250;

    /** What a workspace is made of; editors keep other files beside. */
    private static final Pattern TEXTS = Pattern.compile("[^.].*\\.(ya?ml|sql|md)");

    @Mixin
    private final FolderOption folder = new FolderOption();

    @ArgGroup(exclusive = false, multiplicity = "0..1")
    private @Nullable TrialArguments trial;

    @Option(names = "--no-push", description = "Only check; send no drafts.")
    private boolean quiet;

    /** When a file was saved, and how long it was. */
    private record Saved(long at, long size) {}

    @Override
    public Integer call() throws InterruptedException {
        Map<Path, Saved> known = files();
        Map<String, ModuleText> sent = new TreeMap<>();
        round(sent);
        while (!Thread.currentThread().isInterrupted()) {
            Thread.sleep(LOOK_MILLIS);
            Map<Path, Saved> now = files();
            if (!now.equals(known)) {
                // editors write several files, or one in several steps
                while (!now.equals(known)) {
                    known = now;
                    Thread.sleep(LOOK_MILLIS);
                    now = files();
                }
                round(sent);
            }
        }
        return 0;
    }

    private Map<Path, Saved> files() {
        Map<Path, Saved> files = new TreeMap<>();
        try (Stream<Path> paths = Files.walk(folder.path())) {
            paths.filter(path -> TEXTS.matcher(path.getFileName().toString()).matches())
                    .forEach(path -> look(path, files));
        } catch (IOException | UncheckedIOException e) {
            throw CommandFailure.refused("The folder " + folder.path() + " cannot be read.");
        }
        return files;
    }

    private static void look(Path path, Map<Path, Saved> files) {
        try {
            BasicFileAttributes attributes = Files.readAttributes(path, BasicFileAttributes.class);
            if (attributes.isRegularFile()) {
                files.put(path, new Saved(attributes.lastModifiedTime().toMillis(), attributes.size()));
            }
        } catch (NoSuchFileException e) {
            // an editor took it away meanwhile
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** What goes wrong in a round is told, and the next save is waited for. */
    private void round(Map<String, ModuleText> sent) {
        out().println(Ansi.AUTO.string("@|bold " + LocalTime.now().truncatedTo(ChronoUnit.SECONDS) + "|@"));
        try {
            CheckedWorkspace read = folder.read();
            List<Workspace.Module> changed = new ArrayList<>();
            for (Workspace.Module module : read.modules()) {
                if (!Objects.equals(sent.get(module.text().folder()), module.text())) {
                    changed.add(module);
                }
            }
            SchemasCommand.refresh(folder.path(), read);
            check(read);
            if (!quiet) {
                push(changed);
            }
            read.modules().forEach(module -> sent.put(module.text().folder(), module.text()));
            if (trial != null) {
                run(trial, read);
            }
        } catch (CommandFailure e) {
            out().println("  " + e.getMessage());
        }
        out().flush();
    }

    private void check(CheckedWorkspace read) {
        CheckedWorkspace checked = read.withSources(service());
        List<Finding> standing = checked.findings().stream()
                .filter(finding -> !finding.isAccepted() && finding.severity() != Severity.ADVICE)
                .toList();
        new FindingPrinter(folder.path(), out()).print(standing);
        out().println(checked.summary());
    }

    private void push(List<Workspace.Module> changed) {
        DraftPush push = new DraftPush(service(), folder.path(), out());
        for (Workspace.Module module : changed) {
            if (!push.push(module)) {
                out().println("Somebody else changed " + DraftName.of(module) + "; './tidy pull " + DraftName.of(module)
                        + folder.again() + " --merge' brings both together.");
            }
        }
    }

    private void run(TrialArguments arguments, CheckedWorkspace read) {
        JsonNode answer = posted("/desk/trials", arguments.request(read));
        TrialPrinter printer = new TrialPrinter(out(), arguments.showValues());
        printer.answer(answer);
        new RehearsalPrinter(out()).print(answer.path("rehearsal"));
        arguments.expectFound(answer.path("answer").path("status").asInt(), answer.has("label"));
    }
}
