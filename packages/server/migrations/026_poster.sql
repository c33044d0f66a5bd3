-- What is seen of a clip before it is played: a WebP or PNG picture.
alter table clip add column poster bytea;
alter table clip alter column poster set storage external;
