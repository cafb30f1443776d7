-- +goose Up
-- When an event came in, by the server's clock. Those from before came in at
-- about their stamp.
alter table events disable trigger events_never_change;
alter table events add column received timestamptz;
update events set received = t;
alter table events alter column received set not null;
alter table events alter column received set default now();
alter table events enable trigger events_never_change;

-- Tickets with their times: [{"ticket", "from", "until"}]. A fact is judged by
-- those of its own time.
alter table people add column held jsonb not null default '[]';

-- What stands on a meter, "CAT III 600 V", and how it was before.
alter table meters add column category text not null default '' check (length(category) <= 80);
alter table meters add column valid_from timestamptz;
alter table meters add column valid_until timestamptz;
alter table meters add column was jsonb not null default '[]';

-- +goose Down
alter table meters drop column was, drop column valid_until, drop column valid_from, drop column category;
alter table people drop column held;
alter table events drop column received;
