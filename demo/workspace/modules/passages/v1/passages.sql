-- straight_join: the time order must come from lock_passage, or the server sorts half a million rows for a page.
select p.id, p.passed_at, l.name as lock_name, v.registration, v.name as vessel, p.direction, p.wait_minutes, p.level_m
from lock_passage p
straight_join canal_lock l on l.id = p.lock_id
straight_join vessel v on v.id = p.vessel_id
where
  p.lock_id = :lock                                                            -- when :lock
  and p.vessel_id = (select id from vessel where registration = :vessel)       -- when :vessel
  and p.passed_at >= :since                                                    -- when :since
  and p.direction = :direction                                                 -- when :direction
