drop procedure keeps_then_refuses

drop procedure keeps

drop procedure changes_schema

drop procedure opens

drop procedure partly

drop procedure shows

drop table log_line

drop table if exists log_scrap
