package tidybridge.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import picocli.CommandLine.Help.Ansi;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Severity;
import tidybridge.core.text.SourceText;

/** Prints findings for people: place, severity and code, what is wrong, what to do, and the line with the spot marked. */
final class FindingPrinter {

    private final Path folder;
    private final PrintWriter out;

    FindingPrinter(Path folder, PrintWriter out) {
        this.folder = folder;
        this.out = out;
    }

    void print(List<Finding> findings) {
        for (Finding finding : findings) {
            String severity = finding.severity().name().toLowerCase(Locale.ROOT);
            String operation = finding.operation() == null ? "" : "  @|faint " + finding.operation() + "|@";
            out.println(Ansi.AUTO.string("@|bold " + finding.place() + "|@  @|" + style(finding.severity()) + " "
                    + severity + "|@ " + finding.code().label() + operation));
            out.println("  " + finding.message());
            window(finding).lines().forEach(line -> out.println(Ansi.AUTO.string("@|faint     |@") + line));
            String accepted = finding.accepted();
            if (accepted == null) {
                out.println(Ansi.AUTO.string("  @|cyan remedy:|@ ") + finding.remedy());
            } else {
                out.println(Ansi.AUTO.string("  @|green accepted:|@ ") + accepted);
            }
            out.println();
        }
    }

    private static String style(Severity severity) {
        return switch (severity) {
            case ERROR -> "bold,red";
            case WARNING -> "bold,yellow";
            case ADVICE -> "bold,blue";
        };
    }

    private String window(Finding finding) {
        if (finding.place().line() == 0) {
            return "";
        }
        try {
            String text = Files.readString(folder.resolve(finding.place().file()));
            return new SourceText(finding.place().file(), text).window(finding.place());
        } catch (IOException e) {
            return "";
        }
    }
}
