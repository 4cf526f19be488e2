select p.id, p.passed_at, p.lock_name, p.registration, p.vessel, p.direction, p.wait_minutes, c.amount as toll
from passage_log p
join toll_charge c on c.passage_id = p.id
where p.id = :passed.key
