-- +goose Up
-- A wire is a lead; who leads is a supervisor.
alter table people drop constraint people_role_check;
update people set role = 'supervisor' where role = 'lead';
alter table people add constraint people_role_check check (role in ('technician', 'office', 'supervisor'));

-- Tickets stand in one list, with or without times. Where a ticket has times, they
-- decided before, too.
update people set held = held || coalesce((select jsonb_agg(jsonb_build_object('ticket', t)) from jsonb_array_elements_text(tickets) t
    where not exists (select from jsonb_array_elements(held) h where h ->> 'ticket' = t)), '[]');
alter table people drop column tickets;

-- An account that is closed: nobody signs in by it, and what it recorded stays.
alter table people add column closed_at timestamptz;

alter table sites
    add column address text not null default '' check (length(address) <= 1000),
    add column contact text not null default '' check (length(contact) <= 200),
    add column phone   text not null default '' check (length(phone) <= 200),
    add column access  text not null default '' check (length(access) <= 1000);

-- map_id is the map to use whatever the model says; options are what is known of
-- the machine. One that was merged into another stays, so that what names it finds
-- its way.
alter table appliances
    add column map_id      text not null default '' check (length(map_id) <= 80),
    add column stands      text not null default '' check (length(stands) <= 200),
    add column options     jsonb not null default '{}',
    add column merged_into text references appliances (id) check (merged_into <> id);
create index appliances_of_a_site on appliances (site_id);

-- Which jobs went over with a merging, so that it can be taken back.
create table merges (
    appliance_id text primary key references appliances (id),
    "into"       text not null references appliances (id),
    jobs         jsonb not null default '[]',
    by           text not null,
    at           timestamptz not null default now()
);

-- Days of the company's calendar, as 2026-11-28.
alter table meters
    add column calibrated text not null default '',
    add column due        text not null default '';

-- The company itself, and what an hour of its work cost before.
create table company (
    one     boolean primary key default true check (one),
    details jsonb not null default '{}',
    rates   jsonb not null default '[]'
);

-- Who changes something says which version of it they saw, so that of two at once
-- the later one is told.
alter table people     add column version integer not null default 1, add column changed_by text, add column changed_at timestamptz;
alter table sites      add column version integer not null default 1, add column changed_by text, add column changed_at timestamptz;
alter table appliances add column version integer not null default 1, add column changed_by text, add column changed_at timestamptz;
alter table meters     add column version integer not null default 1, add column changed_by text, add column changed_at timestamptz;
alter table company    add column version integer not null default 1, add column changed_by text, add column changed_at timestamptz;
insert into company default values;

-- +goose Down
drop table company;
alter table meters drop column changed_at, drop column changed_by, drop column version, drop column due, drop column calibrated;
drop table merges;
drop index appliances_of_a_site;
alter table appliances drop column changed_at, drop column changed_by, drop column version, drop column merged_into, drop column options, drop column stands, drop column map_id;
alter table sites drop column changed_at, drop column changed_by, drop column version, drop column access, drop column phone, drop column contact, drop column address;
alter table people drop column changed_at, drop column changed_by, drop column version, drop column closed_at;
alter table people add column tickets jsonb not null default '[]';
alter table people drop constraint people_role_check;
update people set role = 'lead' where role = 'supervisor';
alter table people add constraint people_role_check check (role in ('technician', 'lead', 'office'));
