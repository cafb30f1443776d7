-- +goose Up
-- One row that is written whenever somebody asks whether the database takes
-- anything.
create table readiness (
  one boolean primary key default true check (one),
  at timestamptz not null
);

-- Whoever opens a machine asks for the jobs on it; whoever searches, for those of
-- its kind with the same complaint.
create index jobs_of_an_appliance on jobs (appliance_id);
create index jobs_of_a_complaint on jobs (map_id, complaint);

-- +goose Down
drop index jobs_of_a_complaint;
drop index jobs_of_an_appliance;
drop table readiness;
