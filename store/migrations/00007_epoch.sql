-- +goose Up
-- Which database this is. It changes with every restoring, so that devices notice
-- that what they sent may be gone: from a dump the table of the facts is another
-- one, from a base backup the timeline is; who brings back the files themselves
-- runs "evensteps restored", which changes the salt.
create table epoch (
    one  boolean primary key default true check (one),
    salt uuid not null default gen_random_uuid()
);
insert into epoch default values;

-- +goose StatementBegin
create function database_epoch() returns text language sql stable as $$
    select substr(md5(concat_ws(' ', (select system_identifier from pg_control_system()), (select timeline_id from pg_control_checkpoint()),
        (select oid from pg_database where datname = current_database()), 'events'::regclass::oid, (select salt from epoch))), 1, 16)
$$;
-- +goose StatementEnd

-- Whose session it is, so that who asks is known with one look.
alter table sessions add column person text;

-- +goose Down
alter table sessions drop column person;
drop function database_epoch;
drop table epoch;
