select p.id, p.passed_at, l.name as lock_name, v.registration, p.direction, p.level_m, p.lock_id
from lock_passage p
straight_join canal_lock l on l.id = p.lock_id
straight_join vessel v on v.id = p.vessel_id
where p.lock_id = :lock and p.passed_at >= :since
