select status
from booking
where id = :bookingId and status in ('cancelled', 'expired')
