-- [jooq ignore start]
create trigger release_never_changes before update on module_release
for each row signal sqlstate '45000' set message_text = 'A release never changes';

create trigger release_never_goes before delete on module_release
for each row signal sqlstate '45000' set message_text = 'A release is never deleted';
-- [jooq ignore stop]
