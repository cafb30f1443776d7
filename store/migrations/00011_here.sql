-- +goose Up
-- Who looks at a job now, on which device and at which step. It says nothing about
-- what was done, and may be lost: a device says it again within a minute.
create unlogged table here (
    job_id text not null references jobs (id),
    device text not null,
    person text not null references people (id),
    stream text not null, -- the line that the device is told over
    step   text not null default '',
    at     timestamptz not null default now(),
    primary key (job_id, person, device)
);

-- +goose Down
drop table here;
