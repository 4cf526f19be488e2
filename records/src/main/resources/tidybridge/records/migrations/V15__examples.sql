-- what a live release answers to the examples of its text, for its reference
create table release_examples (
  release_id  bigint      not null primary key,
  recorded_at datetime(3) not null,
  examples    mediumtext  not null,
  constraint examples_of_release foreign key (release_id) references module_release (id)
);
