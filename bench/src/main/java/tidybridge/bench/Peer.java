package tidybridge.bench;

import com.fasterxml.jackson.annotation.JsonRawValue;
import java.math.BigDecimal;
import java.net.URI;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.jdbc.core.DataClassRowMapper;
import org.springframework.jdbc.core.RowMapper;
import org.springframework.jdbc.core.namedparam.MapSqlParameterSource;
import org.springframework.jdbc.core.namedparam.NamedParameterJdbcTemplate;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.jdbc.support.KeyHolder;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.server.ResponseStatusException;

/** What an engineer would write instead: a controller, a template, a record, and offsets. */
@SpringBootApplication(proxyBeanMethods = false)
@RestController
public class Peer {

    private static final RowMapper<Berth> BERTHS = new DataClassRowMapper<>(Berth.class);
    private static final RowMapper<Passage> PASSAGES = new DataClassRowMapper<>(Passage.class);

    private static final RowMapper<Booking> BOOKINGS = new DataClassRowMapper<>(Booking.class);

    private final NamedParameterJdbcTemplate template;

    public Peer(NamedParameterJdbcTemplate template) {
        this.template = template;
    }

    public static void main(String[] args) {
        SpringApplication.run(Peer.class, args);
    }

    record Berth(
            long id,
            String basin,
            String berthNo,
            BigDecimal lengthM,
            BigDecimal widthM,
            boolean hasPower,
            boolean hasWater,
            BigDecimal nightlyRate,
            @JsonRawValue @Nullable String equipment) {}

    record Passage(
            long id,
            LocalDateTime passedAt,
            String lockName,
            String registration,
            String direction,
            @Nullable BigDecimal levelM) {}

    record Page(List<Passage> data) {}

    @GetMapping("/berths/{id}")
    Berth berth(@PathVariable("id") long id) {
        return template.query(Queries.BERTH + ":id", Map.of("id", id), BERTHS).stream()
                .findFirst()
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND));
    }

    record NewPassage(long lockId, long vesselId, LocalDateTime passedAt, String direction) {}

    record Made(long id) {}

    @PostMapping("/passages")
    ResponseEntity<Made> add(@RequestBody NewPassage passage) {
        KeyHolder keys = new GeneratedKeyHolder();
        MapSqlParameterSource values = new MapSqlParameterSource()
                .addValue("lockId", passage.lockId())
                .addValue("vesselId", passage.vesselId())
                .addValue("passedAt", passage.passedAt())
                .addValue("direction", passage.direction());
        template.update(Queries.ADD_PASSAGE, values, keys);
        long id = Objects.requireNonNull(keys.getKey()).longValue();
        return ResponseEntity.created(URI.create("/passages/" + id)).body(new Made(id));
    }

    @PostMapping("/passages/called")
    ResponseEntity<Void> call(@RequestBody NewPassage passage) {
        MapSqlParameterSource values = new MapSqlParameterSource()
                .addValue("lockId", passage.lockId())
                .addValue("vesselId", passage.vesselId())
                .addValue("passedAt", passage.passedAt())
                .addValue("direction", passage.direction());
        template.update(Queries.CALL_PROCEDURE, values);
        return ResponseEntity.noContent().build();
    }

    record Note(String note) {}

    record Booking(long id, String status, @Nullable String note, long version) {}

    @PatchMapping("/bookings/{id}")
    @Transactional
    public Booking change(@PathVariable("id") long id, @RequestBody Note change) {
        int changed = template.update(Queries.CHANGE_BOOKING, Map.of("id", id, "note", change.note()));
        if (changed == 0) {
            throw new ResponseStatusException(HttpStatus.NOT_FOUND);
        }
        return template.query(Queries.BOOKING, Map.of("id", id), BOOKINGS).getFirst();
    }

    @GetMapping("/passages")
    Page passages(
            @RequestParam(name = "limit", defaultValue = "25") int limit,
            @RequestParam(name = "offset", defaultValue = "0") int offset) {
        Map<String, Integer> values = Map.of("limit", limit, "offset", offset);
        return new Page(template.query(Queries.PASSAGES + " limit :limit offset :offset", values, PASSAGES));
    }
}
