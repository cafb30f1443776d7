-- +goose Up
-- What Today shows of a job, made from its events by the core. It can be
-- dropped at any time. A row is stale while its num is behind the job's
-- last_num, which an append sets in its own transaction; or when a version of
-- the program that made other rows wrote it.
create table today_rows (
    job_id  text primary key references jobs (id),
    num     integer not null,
    version integer not null,
    body    jsonb not null,
    made_at timestamptz not null default now()
);

-- Photos by the SHA-256 of their bytes; events name them. Either may come first.
create table photos (
    sha256  text primary key check (sha256 ~ '^[0-9a-f]{64}$'),
    type    text not null check (type in ('image/jpeg', 'image/png')),
    width   integer not null check (width between 1 and 12000),
    height  integer not null check (height between 1 and 12000),
    bytes   bytea not null check (length(bytes) <= 8388608),
    by      text not null references people (id),
    came_at timestamptz not null default now()
);

-- The latest stamp of a job up to and with this event, so that an append need
-- not look through all that its fact had seen.
alter table events disable trigger events_never_change;
alter table events add column t_max timestamptz;
update events set t_max = (select max(o.t) from events o where o.job_id = events.job_id and o.num <= events.num);
alter table events alter column t_max set not null;
alter table events enable trigger events_never_change;

alter table sites add column ferry text not null default '';

-- +goose Down
alter table sites drop column ferry;
alter table events drop column t_max;
drop table today_rows, photos;
