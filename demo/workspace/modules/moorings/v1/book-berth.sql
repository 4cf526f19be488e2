-- :booking is handed back by the procedure.
call book_berth(:berthId, :vesselId, :from, :until, :booking)
