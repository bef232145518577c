-- Pages of a shelf that is followed, as they were when all of it was last seen: those that did not change are not sent again.

create table subscription_page (
  source_id uuid not null references subscription (source_id),
  address text not null check (length(address) <= 2000),
  etag text not null check (length(etag) <= 300),
  -- The cards that were on it.
  cards uuid[] not null,
  next text check (length(next) <= 2000),
  primary key (source_id, address)
);
comment on table subscription_page is 'What a page of a followed shelf held when it was last seen whole.';
