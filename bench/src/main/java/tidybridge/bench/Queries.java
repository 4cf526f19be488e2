package tidybridge.bench;

import tidybridge.demo.DemoDatabase;

/** The SQL that the peer and the floor answer with; the same as in the bench's workspace. */
final class Queries {

    static final String BERTH = """
            select b.id, n.name as basin, b.berth_no, b.length_m, b.width_m, b.has_power, b.has_water, b.nightly_rate, b.equipment
            from berth b join basin n on n.id = b.basin_id where b.id = """;

    static final String PASSAGES = """
            select p.id, p.passed_at, l.name as lock_name, v.registration, p.direction, p.level_m
            from lock_passage p
            straight_join canal_lock l on l.id = p.lock_id
            straight_join vessel v on v.id = p.vessel_id
            order by p.passed_at desc, p.id desc""";

    static final String ADD_PASSAGE = """
            insert into lock_passage (lock_id, vessel_id, passed_at, direction, wait_minutes)
            values (:lockId, :vesselId, :passedAt, :direction, 0)""";

    /** The same insert as the database's own code. */
    static final String[] PROCEDURE = {
        "create or replace procedure pass_lock(in the_lock int, in the_vessel int, in the_time datetime, in the_direction varchar(4))"
                + " modifies sql data insert into lock_passage (lock_id, vessel_id, passed_at, direction, wait_minutes)"
                + " values (the_lock, the_vessel, the_time, the_direction, 0)",
        "grant execute on procedure pass_lock to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'"
    };

    static final String CALL_PROCEDURE = "call pass_lock(:lockId, :vesselId, :passedAt, :direction)";

    static final String CHANGE_BOOKING = "update booking set note = :note, version = version + 1 where id = :id";

    static final String BOOKING = "select id, status, note, version from booking where id = :id";

    private Queries() {}
}
