-- +goose Up
-- The second factor of a person: the secret of RFC 6238, the last step that was used
-- (none is good twice), and the hashes of the spare codes that are left.
alter table people
    add column second text not null default '',
    add column second_step bigint not null default 0,
    add column spares jsonb not null default '[]';

-- Where somebody is signed in, so that they can see it and end it.
alter table sessions
    add column made_at timestamptz not null default now(),
    add column seen_at timestamptz not null default now(),
    add column device text not null default '',
    add column address text not null default '';
create index sessions_of on sessions (person);

-- Who changed what people may do, and who tried. It is only added to.
create table audit (
    id      bigint generated always as identity primary key,
    at      timestamptz not null default now(),
    by      text not null default '', -- a person's id, or the name that was tried
    what    text not null,
    whom    text not null default '',
    address text not null default ''
);
-- +goose StatementBegin
create function audit_is_only_added() returns trigger language plpgsql as $$
begin
    raise exception 'the audit list is only added to';
end
$$;
-- +goose StatementEnd
create trigger audit_never_changes before update or delete or truncate on audit
    for each statement execute function audit_is_only_added();

-- +goose Down
drop table audit;
drop function audit_is_only_added;
drop index sessions_of;
alter table sessions drop column made_at, drop column seen_at, drop column device, drop column address;
alter table people drop column second, drop column second_step, drop column spares;
