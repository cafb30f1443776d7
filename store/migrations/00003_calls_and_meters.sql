-- +goose Up
-- The company's meters, by the number that is written on them, each with its
-- accuracy for every quantity as its maker prints it.
create table meters (
    id       text primary key check (id ~ '^[a-z0-9-]{1,80}$'),
    name     text not null check (length(name) between 1 and 200),
    accuracy jsonb not null default '{}'
);

-- A call that is sent twice makes one job: call is the device's own id of it.
alter table jobs add column call text unique check (length(call) between 8 and 80);
create sequence job_numbers start 1001;

alter table people drop constraint people_role_check;
alter table people add constraint people_role_check check (role in ('technician', 'lead', 'office'));

-- +goose Down
alter table people drop constraint people_role_check;
alter table people add constraint people_role_check check (role in ('technician', 'lead'));
drop sequence job_numbers;
alter table jobs drop column call;
drop table meters;
