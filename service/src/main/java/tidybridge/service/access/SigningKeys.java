package tidybridge.service.access;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.jwk.Curve;
import com.nimbusds.jose.jwk.ECKey;
import com.nimbusds.jose.jwk.JWK;
import com.nimbusds.jose.jwk.KeyUse;
import com.nimbusds.jose.jwk.gen.ECKeyGenerator;
import java.text.ParseException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.records.SigningKey;

/**
 * The keys that access tokens are signed with (ES256, RFC 7518): a new one is made in time, published before anything is signed with it, and
 * kept until nothing is valid that it signed. Immutable and thread-safe.
 */
public final class SigningKeys {

    /** How old a key is when the next one is made. */
    static final Duration LIFE = Duration.ofDays(30);

    /** How long a new key is only published, so that whoever keeps the set for a while knows it when it is used. */
    static final Duration AHEAD = Duration.ofMinutes(15);

    /** How old a key is when it is forgotten: long after the last token that it signed. */
    static final Duration KEPT = LIFE.plusDays(1);

    private record Dated(ECKey key, Instant madeAt) {}

    private final List<Dated> newestFirst = new ArrayList<>();

    SigningKeys(List<SigningKey> stored) {
        for (SigningKey key : stored) {
            try {
                newestFirst.add(new Dated(ECKey.parse(key.jwk()), key.madeAt()));
            } catch (ParseException e) {
                throw new IllegalStateException("the record store holds a key that cannot be read: " + key.id(), e);
            }
        }
    }

    /** A new pair. */
    static SigningKey make(Instant now) {
        try {
            ECKey key = new ECKeyGenerator(Curve.P_256)
                    .keyUse(KeyUse.SIGNATURE)
                    .algorithm(JWSAlgorithm.ES256)
                    .keyIDFromThumbprint(true)
                    .generate();
            return new SigningKey(key.getKeyID(), key.toJSONString(), now);
        } catch (JOSEException e) {
            throw new IllegalStateException("every Java has P-256", e);
        }
    }

    /** True when it is time for the next one. */
    boolean isOld(Instant now) {
        return newestFirst.isEmpty() || newestFirst.getFirst().madeAt().isBefore(now.minus(LIFE));
    }

    /** The pair to sign with now: the newest that has been published long enough; the oldest there is otherwise. */
    public ECKey current(Instant now) {
        for (Dated dated : newestFirst) {
            if (dated.madeAt().isBefore(now.minus(AHEAD))) {
                return dated.key();
            }
        }
        return newestFirst.getLast().key();
    }

    /** By its id; null for one that is not known. */
    @Nullable
    ECKey find(String id) {
        for (Dated dated : newestFirst) {
            if (dated.key().getKeyID().equals(id)) {
                return dated.key();
            }
        }
        return null;
    }

    /** The public parts (RFC 7517, 5). */
    public List<JWK> published() {
        return newestFirst.stream()
                .map(dated -> (JWK) dated.key().toPublicJWK())
                .toList();
    }
}
