package tidybridge.service;

import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.SecretReference;
import tidybridge.core.definition.SourceDefinition;
import tidybridge.core.definition.Transport;
import tidybridge.core.text.Place;
import tidybridge.engine.SourceSettings;
import tidybridge.records.RecordsSettings;

/**
 * The record store's database.
 *
 * @param secretEnv the environment variable that holds the password
 * @param secretFile a file that holds the password, in place of {@code secretEnv}
 * @param tls whether transport security is required; it is unless the host is this machine
 * @param owner the user who makes and changes the tables, so that {@code user} need not; {@code user} unless set
 * @param ownerSecretEnv the environment variable that holds the owner's password
 * @param ownerSecretFile a file that holds it, in place of {@code ownerSecretEnv}
 */
public record RecordsSetting(
        @Nullable String host,
        @Nullable Integer port,
        @Nullable String schema,
        @Nullable String user,
        @Nullable String secretEnv,
        @Nullable Path secretFile,
        @Nullable Boolean tls,
        @Nullable String owner,
        @Nullable String ownerSecretEnv,
        @Nullable Path ownerSecretFile) {

    /** The same as nothing said. */
    static final RecordsSetting UNSAID = new RecordsSetting(null, null, null, null, null, null, null, null, null, null);

    RecordsSettings settled(List<String> problems) {
        SecretReference secret = secretEnv != null
                ? new SecretReference.Variable(secretEnv)
                : secretFile == null ? null : new SecretReference.File(secretFile.toString());
        SourceDefinition definition = new SourceDefinition(
                "records",
                Place.of("tidy.records"),
                null,
                null,
                host,
                port,
                schema,
                user,
                secret,
                null,
                null,
                null,
                null,
                null,
                tls == null ? null : tls ? Transport.VERIFIED : Transport.PLAIN,
                null);
        SourceSettings all = new SourceSettingsReader(definition, "tidy.records", Path.of(""), problems).settings();
        return new RecordsSettings(
                all.host(),
                all.port(),
                all.schema(),
                all.user(),
                all.secret(),
                all.transport() != Transport.PLAIN,
                owner == null
                        ? null
                        : new RecordsSettings.Owner(
                                owner,
                                NamedSecret.read(ownerSecretEnv, ownerSecretFile, "tidy.records.owner-", problems)));
    }
}
