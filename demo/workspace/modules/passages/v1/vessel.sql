select id
from vessel
where registration = :registration
