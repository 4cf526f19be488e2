call tally(:least, :running, :counted, :the_status, :the_words)
