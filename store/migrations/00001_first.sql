-- +goose Up
create table people (
    id            text primary key check (id ~ '^[a-z0-9-]{1,80}$'),
    name          text not null check (length(name) between 1 and 200),
    sign_in       text not null unique check (length(sign_in) between 1 and 80),
    password_hash text not null,
    role          text not null check (role in ('technician', 'lead')),
    tickets       jsonb not null default '[]',
    created_at    timestamptz not null default now()
);

create table sites (
    id     text primary key,
    name   text not null check (length(name) between 1 and 200),
    island text not null default ''
);

-- A map revision never changes once it is here: jobs are pinned to it.
create table map_revisions (
    id       text not null,
    revision integer not null check (revision >= 1),
    title    text not null,
    body     jsonb not null,
    primary key (id, revision)
);

create table appliances (
    id      text primary key,
    site_id text not null references sites (id),
    name    text not null,
    model   text not null default '',
    serial  text not null default ''
);

create table jobs (
    id           text primary key check (id ~ '^[a-z0-9-]{1,80}$'),
    appliance_id text not null references appliances (id),
    complaint    text not null default '',
    words        text not null default '' check (length(words) <= 2000),
    map_id       text not null,
    map_revision integer not null,
    last_num     integer not null default 0,
    created_at   timestamptz not null default now(),
    foreign key (map_id, map_revision) references map_revisions (id, revision)
);

-- The facts. They are only ever added.
create table events (
    id     uuid primary key,
    job_id text not null references jobs (id),
    num    integer not null check (num >= 1),
    t      timestamptz not null,
    by     text not null references people (id),
    device text not null,
    n      integer not null check (n >= 1),
    wall   text not null,
    since  double precision not null,
    run    text not null,
    seen   integer not null check (seen >= 0),
    kind   text not null,
    body   jsonb not null,
    unique (job_id, num)
);
create index events_by_device on events (job_id, device, n);

-- +goose StatementBegin
create function events_are_only_added() returns trigger language plpgsql as $$
begin
    raise exception 'events are never changed or deleted: withdraw the fact by another';
end $$;
-- +goose StatementEnd
create trigger events_never_change before update or delete on events
    for each row execute function events_are_only_added();
create trigger events_never_emptied before truncate on events
    for each statement execute function events_are_only_added();

create table sessions (
    token  text primary key,
    data   bytea not null,
    expiry timestamptz not null
);
create index sessions_by_expiry on sessions (expiry);

-- +goose Down
drop table sessions, events, jobs, appliances, map_revisions, sites, people;
drop function events_are_only_added;
