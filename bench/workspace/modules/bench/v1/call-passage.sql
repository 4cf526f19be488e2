call pass_lock(:lockId, :vesselId, :passedAt, :direction)
