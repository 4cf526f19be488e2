package tidybridge.service.notice;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.access.Holdings;
import tidybridge.core.reference.ModuleNews;
import tidybridge.records.ClientApplication;
import tidybridge.records.Team;
import tidybridge.service.access.AccessBook;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;

/**
 * Tells teams what happens to the modules that their applications hold privileges of: what goes live, what is retired, and what owners say.
 * Thread-safe.
 */
public final class TeamNews {

    private static final Logger LOG = LoggerFactory.getLogger(TeamNews.class);

    private final LiveModules modules;
    private final LiveAccess access;
    private final Notices notices;

    public TeamNews(LiveModules modules, LiveAccess access, Notices notices) {
        this.modules = modules;
        this.access = access;
        this.notices = notices;
    }

    /**
     * Who is to be told of a module; ask before it is retired.
     *
     * @param module its name
     */
    public List<Team> concerned(String module) {
        AccessBook book = access.now();
        List<LiveModule> live = modules.now().modules().stream()
                .filter(one -> one.release().module().equals(module))
                .toList();
        return book.teams().stream()
                .filter(team -> book.clientsOf(team).stream().anyMatch(client -> callsSome(client, live, book)))
                .toList();
    }

    private static boolean callsSome(ClientApplication client, List<LiveModule> live, AccessBook book) {
        Holdings holdings = book.holdings(client);
        return !client.disabled()
                && live.stream()
                        .flatMap(module -> module.needs().stream())
                        .anyMatch(needs -> !needs.open() && needs.areMetBy(holdings));
    }

    /**
     * Tells each team once what happened last to some modules. What happened is so whether or not it can be told.
     *
     * @param concerned by the names of the modules
     * @param own the service's address
     */
    public void tell(Map<String, List<Team>> concerned, String own) {
        try {
            tellNow(concerned, own);
        } catch (RuntimeException e) {
            LOG.warn("What happened could not be told to teams: {}", e.getMessage());
        }
    }

    private void tellNow(Map<String, List<Team>> concerned, String own) {
        Map<Team, List<ModuleNews.Event>> byTeam = new LinkedHashMap<>();
        concerned.forEach((module, teams) -> {
            if (!teams.isEmpty()) {
                modules.news().of(module).events().stream()
                        .findFirst()
                        .ifPresent(event -> teams.forEach(team -> byTeam.computeIfAbsent(team, any -> new ArrayList<>())
                                .add(event)));
            }
        });
        notices.news(byTeam, own);
    }
}
