package tidybridge.records;

import java.util.List;
import java.util.Set;

/**
 * Everything the store says about access at one moment.
 *
 * @param number rises with every change
 * @param sessions those that have not ended
 * @param signingKeys the newest first
 * @param revokedTokens ids of tokens that would be valid otherwise
 */
public record AccessState(
        long number,
        List<StoredRole> roles,
        List<Person> people,
        List<ClientApplication> clients,
        List<Team> teams,
        List<Session> sessions,
        List<SigningKey> signingKeys,
        Set<String> revokedTokens) {
    public AccessState {
        roles = List.copyOf(roles);
        people = List.copyOf(people);
        clients = List.copyOf(clients);
        teams = List.copyOf(teams);
        sessions = List.copyOf(sessions);
        signingKeys = List.copyOf(signingKeys);
        revokedTokens = Set.copyOf(revokedTokens);
    }
}
