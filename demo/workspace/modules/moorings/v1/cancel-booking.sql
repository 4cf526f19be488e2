update booking
set status = 'cancelled', version = version + 1
where id = :bookingId and status in ('requested', 'confirmed')
