delete from log_line
