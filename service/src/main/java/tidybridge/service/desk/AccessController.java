package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.Quota;
import tidybridge.core.access.Role;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.records.ClientApplication;
import tidybridge.records.Person;
import tidybridge.records.StoredRole;
import tidybridge.service.access.AccessBook;
import tidybridge.service.access.AccessChanges;
import tidybridge.service.access.ClientChanges;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.SignIns;
import tidybridge.service.access.Visitor;
import tidybridge.service.desk.AccessViews.ClientView;
import tidybridge.service.desk.AccessViews.ClientViews;
import tidybridge.service.desk.AccessViews.CredentialView;
import tidybridge.service.desk.AccessViews.MadeCredentialView;
import tidybridge.service.desk.AccessViews.PersonView;
import tidybridge.service.desk.AccessViews.PersonViews;
import tidybridge.service.desk.AccessViews.RoleView;
import tidybridge.service.desk.AccessViews.RoleViews;
import tidybridge.service.run.Refusal;

/** Roles, people and client applications: who may what. */
@RestController
@RequestMapping("/desk")
class AccessController {

    private final LiveAccess access;
    private final AccessChanges changes;
    private final ClientChanges clients;
    private final SignIns signIns;
    private final Clock clock;

    AccessController(LiveAccess access, AccessChanges changes, ClientChanges clients, SignIns signIns, Clock clock) {
        this.access = access;
        this.changes = changes;
        this.clients = clients;
        this.signIns = signIns;
        this.clock = clock;
    }

    record RoleRequest(@Nullable String about, @Nullable List<String> holds) {}

    record PersonRequest(
            @Nullable String fullName,
            @Nullable List<String> roles,
            @Nullable Boolean disabled) {}

    record ClientRequest(
            @Nullable String about,
            @Nullable String owner,
            @Nullable String contact,
            @Nullable List<String> addresses,
            @Nullable QuotaRequest quota,
            @Nullable List<String> subjects,
            @Nullable List<String> roles,
            @Nullable Boolean disabled) {}

    record QuotaRequest(
            @Nullable Integer calls,
            @Nullable Integer perSeconds,
            @Nullable Integer concurrent) {

        private static int number(@Nullable Integer number) {
            return number == null ? 0 : number;
        }

        /** Null for a quota that bounds nothing. */
        static @Nullable Quota quota(@Nullable QuotaRequest asked) {
            if (asked == null || number(asked.calls) == 0 && number(asked.concurrent) == 0) {
                return null;
            }
            Duration per = asked.perSeconds == null ? Quota.USUALLY_PER : Duration.ofSeconds(asked.perSeconds);
            return new Quota(number(asked.calls), per, number(asked.concurrent), false);
        }
    }

    record CredentialRequest(
            @Nullable String name, @Nullable Instant endsAt) {}

    @GetMapping("/roles")
    @DeskNeeds(ServicePrivilege.READ)
    RoleViews roles() {
        AccessBook book = access.now();
        Map<String, StoredRole> stored = book.storedRoles().stream()
                .collect(Collectors.toMap(one -> one.role().name(), one -> one));
        return new RoleViews(book.roles().stream()
                .map(role -> RoleView.of(role, stored, book.holders(role.name())))
                .toList());
    }

    @PutMapping("/roles/{name}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    RoleView putRole(@PathVariable("name") String name, @RequestBody RoleRequest role, HttpServletRequest http)
            throws Refusal {
        changes.putRole(new Role(name, blank(role.about()), texts("holds", role.holds())), Visitor.of(http));
        return roles().roles().stream()
                .filter(view -> view.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @DeleteMapping("/roles/{name}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void removeRole(@PathVariable("name") String name, HttpServletRequest http) throws Refusal {
        changes.removeRole(name, Visitor.of(http));
    }

    @GetMapping("/people")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    PersonViews people() {
        AccessBook book = access.now();
        return new PersonViews(book.people().stream()
                .map(person -> PersonView.of(person, book.sessions()))
                .toList());
    }

    @PutMapping("/people/{name}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    PersonView putPerson(@PathVariable("name") String name, @RequestBody PersonRequest person, HttpServletRequest http)
            throws Refusal {
        changes.putPerson(
                name,
                person.fullName() == null ? "" : person.fullName(),
                texts("roles", person.roles()),
                Boolean.TRUE.equals(person.disabled()),
                Visitor.of(http));
        return people().people().stream()
                .filter(view -> view.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @DeleteMapping("/people/{name}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void removePerson(@PathVariable("name") String name, HttpServletRequest http) throws Refusal {
        changes.removePerson(name, Visitor.of(http));
    }

    /** A link with which the person chooses a password. */
    @PostMapping("/people/{name}/link")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    SessionsController.CodeView link(@PathVariable("name") String name, HttpServletRequest http) throws Refusal {
        Visitor visitor = Visitor.of(http);
        changes.checkMayInvite(name, visitor);
        Person person = access.now().person(name);
        return SessionsController.CodeView.of(
                signIns.code(name, visitor), person != null && person.team() != null, SignIns.INVITATION_LIFE);
    }

    @DeleteMapping("/people/{name}/factor")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void removeFactor(@PathVariable("name") String name, HttpServletRequest http) throws Refusal {
        changes.removeFactor(name, Visitor.of(http));
    }

    @GetMapping("/clients")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    ClientViews clients() {
        Instant now = clock.instant();
        return new ClientViews(access.now().clients().stream()
                .map(client -> ClientView.of(client, now))
                .toList());
    }

    @PutMapping("/clients/{name}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    ClientView putClient(@PathVariable("name") String name, @RequestBody ClientRequest client, HttpServletRequest http)
            throws Refusal {
        clients.put(
                new ClientApplication(
                        name,
                        blank(client.about()),
                        client.owner() == null ? "" : client.owner().strip(),
                        client.contact() == null ? "" : client.contact().strip(),
                        Boolean.TRUE.equals(client.disabled()),
                        clock.instant(),
                        texts("addresses", client.addresses()).stream()
                                .distinct()
                                .toList(),
                        QuotaRequest.quota(client.quota()),
                        texts("subjects", client.subjects()).stream()
                                .map(String::strip)
                                .distinct()
                                .toList(),
                        null,
                        texts("roles", client.roles()).stream().distinct().toList(),
                        List.of(),
                        List.of()),
                Visitor.of(http));
        return clients().clients().stream()
                .filter(view -> view.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @DeleteMapping("/clients/{name}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void removeClient(@PathVariable("name") String name, HttpServletRequest http) throws Refusal {
        clients.remove(name, Visitor.of(http));
    }

    @PostMapping("/clients/{name}/credentials")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    MadeCredentialView addCredential(
            @PathVariable("name") String name, @RequestBody CredentialRequest credential, HttpServletRequest http)
            throws Refusal {
        ClientChanges.MadeCredential made = clients.addCredential(
                name, credential.name() == null ? "" : credential.name(), credential.endsAt(), Visitor.of(http));
        return new MadeCredentialView(made.key(), CredentialView.of(made.credential(), clock.instant()));
    }

    @DeleteMapping("/clients/{name}/credentials/{credential}")
    @DeskNeeds(ServicePrivilege.GIVE_ACCESS)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void revoke(
            @PathVariable("name") String name, @PathVariable("credential") String credential, HttpServletRequest http)
            throws Refusal {
        clients.revoke(name, credential, Visitor.of(http));
    }

    private static @Nullable String blank(@Nullable String text) {
        return text == null || text.isBlank() ? null : text.strip();
    }

    private static List<String> texts(String field, @Nullable List<@Nullable String> texts) {
        return DeskRefusal.texts(field, texts);
    }
}
