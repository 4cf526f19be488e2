package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Quota;
import tidybridge.core.access.Role;
import tidybridge.records.ClientApplication;
import tidybridge.records.GivenPrivilege;
import tidybridge.records.Person;
import tidybridge.records.Session;
import tidybridge.records.StoredRole;

/** What the management API shows of who may what. Absent values are left out; a secret is in none but those that were made just now. */
final class AccessViews {

    private AccessViews() {}

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record RoleView(
            String name,
            @Nullable String about,
            List<String> holds,
            String from,
            @Nullable String workspace,
            long holders) {

        static RoleView of(Role role, Map<String, StoredRole> stored, long holders) {
            StoredRole kept = stored.get(role.name());
            String workspace = kept == null ? null : kept.workspace();
            return new RoleView(
                    role.name(),
                    role.about(),
                    role.holds(),
                    kept == null ? "service" : workspace == null ? "here" : "workspace",
                    workspace,
                    holders);
        }
    }

    record RoleViews(List<RoleView> roles) {}

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record PersonView(
            String name,
            String fullName,
            List<String> roles,
            boolean disabled,
            boolean hasPassword,
            boolean hasFactor,
            @Nullable String provider,
            @Nullable String team,
            Instant createdAt,
            @Nullable Instant seenAt) {

        static PersonView of(Person person, List<Session> sessions) {
            return new PersonView(
                    person.name(),
                    person.fullName(),
                    person.roles(),
                    person.disabled(),
                    person.passwordHash() != null,
                    person.factorSecret() != null,
                    person.provider(),
                    person.team(),
                    person.createdAt(),
                    sessions.stream()
                            .filter(session -> person.name().equals(session.person()))
                            .map(Session::usedAt)
                            .max(Instant::compareTo)
                            .orElse(null));
        }
    }

    record PersonViews(List<PersonView> people) {}

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record CredentialView(
            String name,
            String id,
            Instant createdAt,
            @Nullable Instant endsAt,
            @Nullable Instant usedAt,
            boolean ended) {

        static CredentialView of(ClientApplication.Credential credential, Instant now) {
            return new CredentialView(
                    credential.name(),
                    credential.id(),
                    credential.createdAt(),
                    credential.endsAt(),
                    credential.usedAt(),
                    credential.endsAt() != null && !now.isBefore(credential.endsAt()));
        }
    }

    /** A privilege that an application holds beside those of its roles. */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record GivenView(
            String privilege,
            String givenBy,
            Instant givenAt,
            @Nullable Instant endsAt,
            boolean ended,
            @Nullable Long request) {

        static GivenView of(GivenPrivilege given, Instant now) {
            return new GivenView(
                    given.privilege(),
                    given.givenBy(),
                    given.givenAt(),
                    given.endsAt(),
                    !given.isHeld(now),
                    given.request());
        }
    }

    /** Absent parts are not bounded. */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record QuotaView(
            @Nullable Long calls,
            @Nullable Long perSeconds,
            @Nullable Integer concurrent,
            @Nullable Boolean together) {

        static @Nullable QuotaView of(@Nullable Quota quota) {
            return quota == null
                    ? null
                    : new QuotaView(
                            quota.calls() == 0 ? null : quota.calls(),
                            quota.calls() == 0 ? null : quota.per().toSeconds(),
                            quota.concurrent() == 0 ? null : quota.concurrent(),
                            quota.together() ? true : null);
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ClientView(
            String name,
            @Nullable String about,
            String owner,
            String contact,
            List<String> addresses,
            @Nullable QuotaView quota,
            List<String> subjects,
            @Nullable String team,
            List<String> roles,
            List<GivenView> given,
            boolean disabled,
            Instant createdAt,
            List<CredentialView> credentials) {

        static ClientView of(ClientApplication client, Instant now) {
            return new ClientView(
                    client.name(),
                    client.about(),
                    client.owner(),
                    client.contact(),
                    client.addresses(),
                    QuotaView.of(client.quota()),
                    client.subjects(),
                    client.team(),
                    client.roles(),
                    client.given().stream().map(one -> GivenView.of(one, now)).toList(),
                    client.disabled(),
                    client.createdAt(),
                    client.credentials().stream()
                            .map(credential -> CredentialView.of(credential, now))
                            .toList());
        }
    }

    record ClientViews(List<ClientView> clients) {}

    record MadeCredentialView(String key, CredentialView credential) {}

    record SessionView(
            String id,
            String who,
            String kind,
            Instant openedAt,
            Instant endsAt,
            Instant usedAt,
            String address,
            boolean current) {

        static SessionView of(Session session, @Nullable Session current) {
            return new SessionView(
                    session.id(),
                    session.person() == null ? "administrator" : session.person(),
                    session.kind().name().toLowerCase(Locale.ROOT).replace('_', '-'),
                    session.openedAt(),
                    session.endsAt(),
                    session.usedAt(),
                    session.address(),
                    current != null && current.id().equals(session.id()));
        }
    }

    record SessionViews(List<SessionView> sessions) {}

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record AccountView(
            String name,
            @Nullable String fullName,
            String kind,
            List<String> roles,
            List<String> privileges,
            boolean hasFactor,
            boolean anybodyKnown,
            @Nullable Long waitingRequests) {}
}
