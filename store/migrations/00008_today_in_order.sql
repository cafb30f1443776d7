-- +goose Up
-- Today's page is read in the order of an index: one's own first, then by place.
-- What a row needs besides its body stands beside it, so that a page is passed
-- on as it is kept.
alter table today_rows add column stops jsonb not null default '[]'; -- where somebody without a ticket stops
drop index today_now;
create index today_by_place on today_rows (place, rank, coalesce(opened, timestamptz '9999-01-01 00:00:00+00'), job_id) where stage <> 'signed';
create index today_whose on today_rows using gin (whose jsonb_path_ops) where stage <> 'signed';

-- +goose Down
drop index today_whose, today_by_place;
create index today_now on today_rows (job_id) where stage <> 'signed';
alter table today_rows drop column stops;
