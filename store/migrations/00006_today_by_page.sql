-- +goose Up
-- What Today is put in order by stands beside the row, so that one page of it is
-- one look. Rows are derived: they are made again.
delete from today_rows;
alter table today_rows
    add column stage  text not null,
    add column rank   integer not null,
    add column place  text not null,
    add column opened timestamptz,
    add column signed timestamptz,
    add column whose  jsonb not null default '[]';
create index today_now on today_rows (job_id) where stage <> 'signed';
create index today_earlier on today_rows (signed, job_id) where stage = 'signed';

-- The latest event that Today's row of a job knows. While it is behind last_num,
-- which every append moves, the row is stale, whatever program appended.
alter table jobs add column shown integer not null default -1;
create index jobs_stale on jobs (created_at, id) where shown < last_num;

-- Rows can be dropped at any time: their jobs are stale then.
-- +goose StatementBegin
create function row_dropped() returns trigger language plpgsql as $$
begin
    if tg_op = 'TRUNCATE' then
        update jobs set shown = -1 where shown >= 0;
        return null;
    end if;
    update jobs set shown = -1 where id = old.job_id;
    return null;
end $$;
-- +goose StatementEnd
create trigger row_deleted after delete on today_rows for each row execute function row_dropped();
create trigger rows_emptied after truncate on today_rows for each statement execute function row_dropped();

-- +goose Down
drop trigger row_deleted on today_rows;
drop trigger rows_emptied on today_rows;
drop function row_dropped;
alter table jobs drop column shown;
alter table today_rows drop column whose, drop column signed, drop column opened, drop column place, drop column rank, drop column stage;
