drop procedure tally

drop procedure hush

drop table crate_move

drop table crate

drop table shed
