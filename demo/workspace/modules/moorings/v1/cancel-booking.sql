update booking
set status = 'cancelled', version = version + 1
where id = :bookingId
