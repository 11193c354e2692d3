-- Parts of names are found by three letters at a time. A database that has not this extension looks through all of them.
do $$
begin
  create extension if not exists pg_trgm;
  create index if not exists "corrected_files_name_parts" on "corrected_files" using gin ("file_name" gin_trgm_ops);
exception when others then
  raise notice 'names are searched without an index: %', sqlerrm;
end
$$;
