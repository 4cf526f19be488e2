-- Only what the caller names is changed.
update booking
set arrives = :from      -- when :from
  , departs = :until     -- when :until
  , status = :status     -- when :status
  , note = :note         -- when :note
  , version = version + 1
where id = :bookingId
