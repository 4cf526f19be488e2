package tidybridge.service.notice;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.compare.Effect;
import tidybridge.core.reference.ModuleNews;

/** What teams are told of modules, in mails and in events. */
final class NewsWords {

    private static final int MOST_EVENTS = 20;

    private NewsWords() {}

    static String subject(List<ModuleNews.Event> events) {
        return events.size() == 1 ? events.getFirst().title() : events.size() + " modules that you call have news";
    }

    static String text(List<ModuleNews.Event> events, String own) {
        StringBuilder text = new StringBuilder();
        events.stream().limit(MOST_EVENTS).forEach(event -> write(event, own, text));
        if (events.size() > MOST_EVENTS) {
            text.append("And ")
                    .append(events.size() - MOST_EVENTS)
                    .append(" more: ")
                    .append(own)
                    .append("/directory\n\n");
        }
        return text.append("You get this because applications of your team may call these modules. Your team's page: ")
                .append(own)
                .append("/team\n")
                .toString();
    }

    private static void write(ModuleNews.Event event, String own, StringBuilder text) {
        text.append(event.title()).append("\n");
        said(event.note(), "", text);
        said(event.reason(), "Why: ", text);
        differences(event, Effect.BREAKING, "Breaks callers:", text);
        differences(event, Effect.SAFE, "Safe for callers:", text);
        if (event.untold() > 0) {
            text.append("  And ").append(event.untold()).append(" more.\n");
        }
        text.append("  ").append(address(event, own)).append("\n\n");
    }

    private static void said(@Nullable String words, String begin, StringBuilder text) {
        if (words != null) {
            text.append((begin + words).strip().indent(2));
        }
    }

    private static void differences(ModuleNews.Event event, Effect effect, String begin, StringBuilder text) {
        List<DifferenceNote> told = event.differences().stream()
                .filter(difference -> difference.effect().equals(effect.label()))
                .toList();
        if (!told.isEmpty()) {
            text.append("  ").append(begin).append('\n');
            told.forEach(difference -> text.append("    ")
                    .append(difference.operation() == null ? "" : difference.operation() + ": ")
                    .append(difference.words())
                    .append('\n'));
        }
    }

    private static String address(ModuleNews.Event event, String own) {
        return own + "/api/" + event.address().replaceFirst("/.*", "") + "/changes#" + event.id();
    }

    static Map<String, @Nullable Object> data(List<ModuleNews.Event> events, String own) {
        Map<String, @Nullable Object> data = new LinkedHashMap<>();
        data.put(
                "news",
                events.stream()
                        .limit(MOST_EVENTS)
                        .map(event -> data(event, own))
                        .toList());
        data.put("more", Math.max(0, events.size() - MOST_EVENTS));
        return data;
    }

    private static Map<String, @Nullable Object> data(ModuleNews.Event event, String own) {
        Map<String, @Nullable Object> data = new LinkedHashMap<>();
        data.put("id", event.id());
        data.put("kind", event.kind().name().toLowerCase(Locale.ROOT).replace('_', '-'));
        data.put("module", event.address());
        data.put("title", event.title());
        data.put("version", event.version());
        data.put("comparedWith", event.comparedWith());
        data.put("at", event.at().toString());
        data.put("note", event.note());
        data.put("reason", event.reason());
        data.put("differences", event.differences());
        data.put("untold", event.untold());
        data.put("address", address(event, own));
        return data;
    }
}
