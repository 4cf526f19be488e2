select toll_due(v.id, l.id) as toll
from vessel v
join canal_lock l on l.id = :lockId
where v.registration = :registration
