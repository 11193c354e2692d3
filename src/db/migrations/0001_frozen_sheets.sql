-- Printed things are frozen: once a sheet is marked as printed, its geometry never changes.
create function red_plumb_keep_printed_sheet() returns trigger language plpgsql as $$
begin
  if old.printed_at is not null and (
    new.geometry is distinct from old.geometry
    or new.number is distinct from old.number
    or new.address is distinct from old.address
    or new.printed_at is null
  ) then
    raise exception 'proof sheet % has been printed and is frozen', old.number using errcode = 'check_violation';
  end if;
  return new;
end $$;
--> statement-breakpoint
create trigger keep_printed_sheet before update on proof_sheets
  for each row execute function red_plumb_keep_printed_sheet();
