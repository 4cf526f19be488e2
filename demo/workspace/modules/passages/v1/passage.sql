select id, passed_at, lock_name, registration, vessel, direction, wait_minutes, level_m
from passage_log
where id = :passageId
