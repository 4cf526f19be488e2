select count(*) as passages
from lock_passage
where lock_id = :lockId
  and passed_at >= :from
  and passed_at < :to
