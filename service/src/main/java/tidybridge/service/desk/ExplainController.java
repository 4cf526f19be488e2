package tidybridge.service.desk;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.Explanation;
import tidybridge.core.access.Explanation.Asked;
import tidybridge.core.access.Explanation.Outcome;
import tidybridge.core.access.Explanation.Step;
import tidybridge.core.access.Explanation.Subject;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.Needs;
import tidybridge.core.access.Role;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.bind.Caller;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.route.Router;
import tidybridge.core.text.Nearest;
import tidybridge.records.ClientApplication;
import tidybridge.records.Person;
import tidybridge.records.Records;
import tidybridge.service.access.AccessBook;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.desk.ExplainViews.AnswerView;
import tidybridge.service.desk.ExplainViews.HolderView;
import tidybridge.service.desk.ExplainViews.HoldersView;
import tidybridge.service.desk.ExplainViews.RefusedCallView;
import tidybridge.service.desk.ExplainViews.RefusedCallsView;
import tidybridge.service.live.Live;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.Target;
import tidybridge.service.quota.Quotas;

/** Why a call is, or was, let through or refused. */
@RestController
@RequestMapping("/desk")
class ExplainController {

    private static final int MOST_SHOWN = 200;

    private final LiveModules live;
    private final LiveAccess access;
    private final Quotas quotas;
    private final Records records;
    private final Clock clock;

    ExplainController(LiveModules live, LiveAccess access, Quotas quotas, Records records, Clock clock) {
        this.live = live;
        this.access = access;
        this.quotas = quotas;
        this.records = records;
        this.clock = clock;
    }

    /** An operation that is asked about. */
    private record Found(ModulePlan module, OperationPlan operation) {}

    /** Whether somebody may call an operation, and why. */
    @GetMapping("/access/answers")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    AnswerView answer(
            @RequestParam("module") String module,
            @RequestParam("method") String method,
            @RequestParam("path") String path,
            @RequestParam(name = "client", required = false) @Nullable String client,
            @RequestParam(name = "person", required = false) @Nullable String person,
            @RequestParam(name = "address", required = false) @Nullable String address) {
        if (address != null && (!AddressList.isNetwork(address) || address.indexOf('/') >= 0)) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'address' is one address in figures, such as 10.1.2.3.");
        }
        Found found = find(module, method, path);
        AccessBook book = access.now();
        Asked asked = client != null
                ? asked(book, client(book, client))
                : person != null ? asked(book, person(book, person)) : Asked.STRANGER;
        Caller caller = new Caller(
                asked.name(), client, List.of(), address == null ? "0.0.0.0" : address, holdings(asked), Map.of());
        boolean counted = asked.name() != null || address != null;
        Explanation explanation = Explanation.of(
                        asked,
                        found.module().admission(),
                        found.operation().needs(),
                        address,
                        List.copyOf(book.roles()))
                .with(counted ? quotaSteps(caller, found) : List.of());
        return AnswerView.of(found.operation(), explanation);
    }

    private static Holdings holdings(Asked asked) {
        List<String> all = new ArrayList<>(asked.given());
        asked.roles().forEach(role -> all.addAll(role.holds()));
        return Holdings.of(all);
    }

    private List<Step> quotaSteps(Caller caller, Found found) {
        return quotas.states(quotas.rules(caller, found.module(), found.operation()), caller).stream()
                .map(ExplainController::step)
                .toList();
    }

    private static Step step(Quotas.State state) {
        boolean used = state.rule().quota().calls() > 0 && state.left() == 0;
        boolean full = state.rule().quota().concurrent() > 0
                && state.running() >= state.rule().quota().concurrent();
        String left = state.rule().quota().calls() == 0
                ? state.running() + " are under way"
                : state.left() + " calls are left for " + state.untilNext().toSeconds() + " s";
        return new Step(
                Subject.QUOTA,
                used || full ? Outcome.NO : Outcome.YES,
                "The quota of the " + state.rule().name() + " is "
                        + state.rule().quota() + "; here, " + left + ".");
    }

    /** Who may call an operation. */
    @GetMapping("/access/holders")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    HoldersView holders(
            @RequestParam("module") String module,
            @RequestParam("method") String method,
            @RequestParam("path") String path) {
        Found found = find(module, method, path);
        Needs needs = found.operation().needs();
        AccessBook book = access.now();
        List<HolderView> roles = new ArrayList<>();
        for (Role role : book.roles()) {
            String by = Explanation.by(role, needs);
            if (by != null && !needs.open()) {
                roles.add(new HolderView(role.name(), by, null));
            }
        }
        List<HolderView> clients = new ArrayList<>();
        for (ClientApplication client : book.clients()) {
            add(
                    clients,
                    client.name(),
                    client.roles(),
                    roles,
                    asked(book, client).trouble());
            addGiven(clients, client.name(), book.given(client), needs);
        }
        List<HolderView> people = new ArrayList<>();
        for (Person person : book.people()) {
            add(
                    people,
                    person.name(),
                    person.roles(),
                    roles,
                    asked(book, person).trouble());
        }
        return HoldersView.of(found.operation(), roles, clients, people);
    }

    private static void add(
            List<HolderView> holders, String name, List<String> has, List<HolderView> roles, @Nullable String trouble) {
        roles.stream()
                .filter(role -> has.contains(role.name()))
                .findFirst()
                .ifPresent(role -> holders.add(new HolderView(name, role.name(), trouble)));
    }

    private static void addGiven(List<HolderView> holders, String name, List<String> given, Needs needs) {
        boolean there = holders.stream().anyMatch(holder -> holder.name().equals(name));
        given.stream()
                .filter(privilege -> !there && needs.anyOf().contains(privilege))
                .findFirst()
                .ifPresent(privilege -> holders.add(new HolderView(name, "'" + privilege + "', on request", null)));
    }

    /** The calls that were refused lately, or those of one request. */
    @GetMapping("/refused-calls")
    @DeskNeeds(ServicePrivilege.OPERATE)
    RefusedCallsView refused(@RequestParam(name = "request", required = false) @Nullable String request) {
        return new RefusedCallsView((request == null
                        ? records.refusedCalls().last(MOST_SHOWN)
                        : records.refusedCalls().of(request.strip(), MOST_SHOWN))
                .stream().map(RefusedCallView::of).toList());
    }

    private Asked asked(AccessBook book, ClientApplication client) {
        Instant now = clock.instant();
        boolean shows = !client.subjects().isEmpty()
                || client.credentials().stream().anyMatch(one -> one.endsAt() == null || now.isBefore(one.endsAt()));
        String trouble = client.disabled()
                ? "The application '" + client.name() + "' is turned off."
                : shows ? null : "The application '" + client.name() + "' has no key that is valid.";
        return new Asked(
                client.name(),
                "application",
                trouble,
                roles(book, client.roles()),
                book.given(client),
                AddressList.of(client.addresses()));
    }

    private static Asked asked(AccessBook book, Person person) {
        String trouble = person.disabled()
                ? "'" + person.name() + "' may not sign in."
                : person.passwordHash() == null && person.provider() == null
                        ? "'" + person.name() + "' has not chosen a password yet."
                        : null;
        return new Asked(
                person.name(), "person", trouble, roles(book, person.roles()), List.of(), AddressList.EVERYWHERE);
    }

    private static List<Role> roles(AccessBook book, List<String> names) {
        List<Role> roles = new ArrayList<>();
        for (String name : names) {
            Role role = book.role(name);
            if (role != null) {
                roles.add(role);
            }
        }
        return roles;
    }

    private static ClientApplication client(AccessBook book, String name) {
        ClientApplication client = book.client(name);
        if (client == null) {
            throw unknown(
                    "client application",
                    name,
                    book.clients().stream().map(ClientApplication::name).toList());
        }
        return client;
    }

    private static Person person(AccessBook book, String name) {
        Person person = book.person(name);
        if (person == null) {
            throw unknown(
                    "person", name, book.people().stream().map(Person::name).toList());
        }
        return person;
    }

    private Found find(String identity, String method, String path) {
        Live now = live.now();
        LiveModule module = now.module(identity);
        ModulePlan plan = module == null ? null : module.plan();
        if (plan == null) {
            throw unknown(
                    "live module",
                    identity,
                    now.modules().stream().map(LiveModule::identity).toList());
        }
        for (OperationPlan operation : plan.operations().toList()) {
            if (operation.path().text().equals(path)
                    && operation.method().name().equalsIgnoreCase(method)) {
                return new Found(plan, operation);
            }
        }
        Target target =
                path.startsWith("/") ? now.match("/" + identity + path, 0, new int[2 * Router.MOST_CAPTURES]) : null;
        if (target instanceof Target.Operations operations && operations.module() == module) {
            for (OperationPlan operation : operations.byMethod().values().stream()
                    .map(one -> one.plan())
                    .toList()) {
                if (operation.method().name().equalsIgnoreCase(method)) {
                    return new Found(plan, operation);
                }
            }
        }
        throw unknown(
                "operation",
                method + " " + path,
                plan.operations()
                        .map(operation ->
                                operation.method() + " " + operation.path().text())
                        .toList());
    }

    private static DeskRefusal unknown(String what, String name, List<String> known) {
        return new DeskRefusal(
                ProblemKind.ROW_UNKNOWN, "There is no " + what + " '" + name + "'." + Nearest.hint(name, known));
    }
}
