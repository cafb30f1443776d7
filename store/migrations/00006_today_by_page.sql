-- +goose Up
-- What Today is put in order by stands beside the row, so that one page of it is
-- one look. It is derived: rows of an older version are made again, and stand
-- where they stood until then.
alter table today_rows
    add column stage  text not null default 'new',
    add column rank   integer not null default 1,
    add column place  text not null default '',
    add column opened timestamptz,
    add column signed timestamptz,
    add column whose  jsonb not null default '[]',
    add column mended jsonb not null default '[]', -- faults that were proven mended
    add column did    jsonb not null default '[]'; -- what was done, in lines
update today_rows set
    stage = coalesce(body ->> 'stage', 'new'),
    rank = case body ->> 'stage' when 'open' then 0 when 'waiting' then 2 else 1 end,
    place = concat_ws(' ', body ->> 'ferry', body ->> 'place'),
    opened = (body ->> 'opened')::timestamptz,
    signed = case body ->> 'stage' when 'signed' then made_at end;
-- What is put in order stays narrow: bodies stand outside of the table.
alter table today_rows alter column body set storage external;
alter table today_rows set (toast_tuple_target = 128);
create index today_now on today_rows (job_id) where stage <> 'signed';
create index today_earlier on today_rows (signed, job_id) where stage = 'signed';

-- The latest event that Today's row of a job knows. While it is behind last_num,
-- which every append moves, the row is stale, whatever program appended.
alter table jobs add column shown integer not null default -1;
create index jobs_stale on jobs (created_at, id) where shown < last_num;

-- The latest jobs of a machine, and of a complaint.
drop index jobs_of_an_appliance;
drop index jobs_of_a_complaint;
create index jobs_of_an_appliance on jobs (appliance_id, created_at);
create index jobs_of_a_complaint on jobs (map_id, complaint, created_at);

-- Each job has a row from the first, so that none is missing in a list; what is
-- dropped comes back empty and is made again.
-- +goose StatementBegin
create function row_for(job text) returns void language sql as $$
    insert into today_rows (job_id, num, version, body, place)
    select j.id, -1, 0, '{}', concat_ws(' ', s.ferry, s.island) from jobs j join appliances a on a.id = j.appliance_id join sites s on s.id = a.site_id where j.id = job
    on conflict do nothing
$$;
create function row_for_new_job() returns trigger language plpgsql as $$
begin
    perform row_for(new.id);
    return null;
end $$;
create function row_dropped() returns trigger language plpgsql as $$
begin
    update jobs set shown = -1 where id = old.job_id;
    perform row_for(old.job_id);
    return null;
end $$;
-- +goose StatementEnd
create trigger job_made after insert on jobs for each row execute function row_for_new_job();
create trigger row_deleted after delete on today_rows for each row execute function row_dropped();
select row_for(id) from jobs;

-- +goose Down
drop index jobs_of_a_complaint;
drop index jobs_of_an_appliance;
create index jobs_of_an_appliance on jobs (appliance_id);
create index jobs_of_a_complaint on jobs (map_id, complaint);
drop trigger job_made on jobs;
drop trigger row_deleted on today_rows;
drop function row_for_new_job, row_dropped, row_for;
alter table jobs drop column shown;
alter table today_rows drop column did, drop column mended, drop column whose, drop column signed, drop column opened, drop column place, drop column rank, drop column stage;
