-- +goose Up
-- The pixels of a photo may lie in a bucket, named as the photo is: then there are none here.
alter table photos alter column bytes drop not null;

-- +goose Down
delete from photos where bytes is null;
alter table photos alter column bytes set not null;
