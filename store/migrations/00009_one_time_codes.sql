-- +goose Up
-- Until when the password of a person is a one-time code, good for one sign-in and
-- for choosing a password of one's own. Null: it is their own.
alter table people add column code_until timestamptz;

-- +goose Down
alter table people drop column code_until;
