-- What a try did, step by step, and what it logged outside of any step: trees that are always read whole.
alter table attempt add column steps jsonb;
alter table attempt add column logs jsonb;

alter table result_note add column tags jsonb;

-- When its last result ended, as far as the files tell times.
alter table part add column ended_at timestamp with time zone;
-- Whether its test run ended before its time.
alter table part add column broken_off boolean default false not null;

-- How a run came to be closed: with its only upload, when its parts were there, by hand, or after a silence.
alter table run add column closed_by varchar(20);

-- After so long without news an open run of the stream is closed; null for what the service is set to.
alter table stream add column silence_seconds integer;

-- What was attached is kept once, however often it comes.
create table attachment_content (
  project_id integer not null,
  hash varchar(64) not null,
  blob_id bigint not null,
  size_bytes bigint not null,
  -- When an upload last relied on it, to the hour.
  used_at timestamp with time zone not null,
  primary key (project_id, hash)
);

-- Ordinal -1 stands for the part itself: files that no result claims.
create table attachment (
  project_id integer not null,
  run_id bigint not null,
  part_no integer not null,
  ordinal integer not null,
  attempt_no smallint not null,
  attachment_no smallint not null,
  name text not null,
  media_type varchar(100) not null,
  size_bytes bigint not null,
  -- Null when the result file names a file that was not sent.
  blob_id bigint,
  primary key (project_id, run_id, part_no, ordinal, attempt_no, attachment_no)
);

create index attachment_of_blob on attachment (project_id, blob_id);

-- [jooq ignore start]
-- Raw files and most attachments are packed already.
alter table blob_chunk alter column content set storage external;
-- [jooq ignore stop]

-- A part that is being sent while its tests run: what is there of it is provisional, until the whole of it comes as an
-- upload and takes its place. The last batch that was taken in; null for a part that is not live.
alter table part add column live_batch integer;
-- The tests that run now: a list of suite, name and since when.
alter table part add column running jsonb;
