insert into lock_passage (lock_id, vessel_id, passed_at, direction, wait_minutes)
values (:lockId, :vesselId, :passedAt, :direction, 0)
