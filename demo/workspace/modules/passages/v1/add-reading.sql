insert into gauge_reading (lock_id, read_at, level_m)
values (:lockId, :readAt, :level)
