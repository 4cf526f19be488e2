select closed_to, reason
from closure
where lock_id = :lockId and date(:passedAt) between closed_from and closed_to
order by closed_to desc
limit 1
