-- A house from before there were owners gets one: whoever wrote in it first.
update account set role = 'owner'
 where id = (select id from account where role = 'author' and disabled_at is null order by created_at, id limit 1)
   and not exists (select 1 from account where role = 'owner');
