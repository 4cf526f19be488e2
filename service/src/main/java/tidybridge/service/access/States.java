package tidybridge.service.access;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Role;
import tidybridge.records.ClientApplication;
import tidybridge.records.Person;
import tools.jackson.databind.json.JsonMapper;

/** What the audit trail keeps of roles, people and applications, as JSON: everything that was said of them, and no secret. */
final class States {

    private static final JsonMapper JSON = JsonMapper.shared();

    private States() {}

    static @Nullable String of(@Nullable Role role) {
        return role == null ? null : JSON.writeValueAsString(parts("about", role.about(), "holds", role.holds()));
    }

    /** By their names. */
    static String of(List<Role> roles) {
        Map<String, List<String>> holds = new TreeMap<>();
        roles.forEach(role -> holds.put(role.name(), role.holds()));
        return JSON.writeValueAsString(holds);
    }

    static @Nullable String of(@Nullable Person person) {
        return person == null
                ? null
                : JSON.writeValueAsString(parts(
                        "fullName", person.fullName(),
                        "roles", person.roles(),
                        "disabled", person.disabled(),
                        "provider", person.provider()));
    }

    static @Nullable String of(@Nullable ClientApplication client) {
        return client == null
                ? null
                : JSON.writeValueAsString(parts(
                        "about", client.about(),
                        "owner", client.owner(),
                        "contact", client.contact(),
                        "disabled", client.disabled(),
                        "addresses", client.addresses(),
                        "quota", client.quota() == null ? null : client.quota().toString(),
                        "subjects", client.subjects(),
                        "roles", client.roles()));
    }

    static String of(ClientApplication.Credential credential) {
        return JSON.writeValueAsString(parts(
                "name", credential.name(),
                "id", credential.id(),
                "endsAt",
                        credential.endsAt() == null ? null : credential.endsAt().toString()));
    }

    /** Names and values in turn. */
    private static Map<String, @Nullable Object> parts(@Nullable Object... parts) {
        Map<String, @Nullable Object> all = new LinkedHashMap<>();
        for (int i = 0; i < parts.length; i += 2) {
            all.put(String.valueOf(parts[i]), parts[i + 1]);
        }
        return all;
    }
}
