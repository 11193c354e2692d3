-- What was a rig row is a setup: its id lives on, and everything that pointed to it goes on pointing to it.
ALTER TABLE "rigs" RENAME TO "setups";--> statement-breakpoint
ALTER TABLE "setups" RENAME CONSTRAINT "rigs_pkey" TO "setups_pkey";--> statement-breakpoint
ALTER TABLE "setups" RENAME CONSTRAINT "rigs_sheet_positive" TO "setups_sheet_positive";--> statement-breakpoint
ALTER TABLE "setups" RENAME CONSTRAINT "rigs_area_inside_sheet" TO "setups_area_inside_sheet";--> statement-breakpoint
ALTER TABLE "setups" RENAME CONSTRAINT "rigs_media_class" TO "setups_media_class";--> statement-breakpoint
ALTER TABLE "setups" RENAME CONSTRAINT "rigs_tolerance_positive" TO "setups_tolerance_positive";--> statement-breakpoint
ALTER TABLE "setups" RENAME CONSTRAINT "rigs_feed" TO "setups_feed";--> statement-breakpoint
ALTER TABLE "setups" RENAME CONSTRAINT "rigs_media_id_media_id_fk" TO "setups_media_id_media_id_fk";--> statement-breakpoint
ALTER TABLE "setups" DROP CONSTRAINT "rigs_changeable";--> statement-breakpoint
ALTER TABLE "setups" DROP CONSTRAINT "rigs_names";--> statement-breakpoint
DROP INDEX "rigs_name_in_use";--> statement-breakpoint
ALTER TABLE "drift_estimates" RENAME COLUMN "rig_id" TO "setup_id";--> statement-breakpoint
ALTER TABLE "drift_estimates" RENAME CONSTRAINT "drift_estimates_rig_id_rigs_id_fk" TO "drift_estimates_setup_id_setups_id_fk";--> statement-breakpoint
ALTER TABLE "proof_sheets" RENAME COLUMN "rig_id" TO "setup_id";--> statement-breakpoint
ALTER TABLE "proof_sheets" RENAME CONSTRAINT "proof_sheets_rig_id_rigs_id_fk" TO "proof_sheets_setup_id_setups_id_fk";--> statement-breakpoint
ALTER TABLE "runs" RENAME COLUMN "rig_id" TO "setup_id";--> statement-breakpoint
ALTER TABLE "runs" RENAME CONSTRAINT "runs_rig_id_rigs_id_fk" TO "runs_setup_id_setups_id_fk";--> statement-breakpoint
ALTER TABLE "sessions" RENAME COLUMN "rig_id" TO "setup_id";--> statement-breakpoint
ALTER TABLE "sessions" RENAME CONSTRAINT "sessions_rig_id_rigs_id_fk" TO "sessions_setup_id_setups_id_fk";--> statement-breakpoint
ALTER TABLE "tape_measures" RENAME COLUMN "rig_id" TO "setup_id";--> statement-breakpoint
ALTER TABLE "tape_measures" RENAME CONSTRAINT "tape_measures_rig_id_rigs_id_fk" TO "tape_measures_setup_id_setups_id_fk";--> statement-breakpoint
ALTER TABLE "events" RENAME COLUMN "rig_id" TO "setup_id";--> statement-breakpoint
ALTER TABLE "events" RENAME CONSTRAINT "events_rig_id_rigs_id_fk" TO "events_setup_id_setups_id_fk";--> statement-breakpoint
DROP INDEX "events_rig";--> statement-breakpoint
ALTER TABLE "events" ALTER COLUMN "setup_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "rig_settings" RENAME TO "machine_settings";--> statement-breakpoint
ALTER TABLE "machine_settings" RENAME CONSTRAINT "rig_settings_pkey" TO "machine_settings_pkey";--> statement-breakpoint
ALTER TABLE "machine_settings" RENAME CONSTRAINT "rig_settings_unit" TO "machine_settings_unit";--> statement-breakpoint
ALTER TABLE "machine_settings" RENAME CONSTRAINT "rig_settings_nominal" TO "machine_settings_nominal";--> statement-breakpoint
ALTER TABLE "machine_settings" RENAME CONSTRAINT "rig_settings_step_positive" TO "machine_settings_step_positive";--> statement-breakpoint
ALTER TABLE "machine_settings" RENAME CONSTRAINT "rig_settings_range" TO "machine_settings_range";--> statement-breakpoint
ALTER TABLE "machine_settings" RENAME CONSTRAINT "rig_settings_display" TO "machine_settings_display";--> statement-breakpoint
ALTER TABLE "machine_settings" RENAME CONSTRAINT "rig_settings_direction" TO "machine_settings_direction";--> statement-breakpoint
ALTER TABLE "machine_settings" RENAME COLUMN "rig_id" TO "setup_id";--> statement-breakpoint
DROP INDEX "rig_settings_position";--> statement-breakpoint
ALTER TABLE "setting_changes" RENAME CONSTRAINT "setting_changes_setting_id_rig_settings_id_fk" TO "setting_changes_setting_id_machine_settings_id_fk";--> statement-breakpoint
CREATE TABLE "machines" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"prints" boolean NOT NULL,
	"cuts" boolean NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "machines_does_something" CHECK ("machines"."prints" or "machines"."cuts"),
	CONSTRAINT "machines_name" CHECK (length("machines"."name") between 1 and 60)
);--> statement-breakpoint
CREATE TABLE "change_overs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"rig_id" uuid NOT NULL,
	"setup_id" uuid NOT NULL,
	"changes" jsonb NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);--> statement-breakpoint
CREATE TABLE "setting_values" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"setting_id" uuid NOT NULL,
	"media_id" uuid,
	"value" double precision NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	CONSTRAINT "setting_values_of" UNIQUE NULLS NOT DISTINCT("setting_id","media_id")
);--> statement-breakpoint
CREATE TABLE "standing_corrections" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"setup_id" uuid NOT NULL,
	"settings" jsonb NOT NULL,
	"file_transform" jsonb,
	"source" text NOT NULL,
	"session_id" uuid,
	"correction_id" uuid,
	"r95_mm" double precision,
	"by" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"replaced_at" timestamp with time zone,
	CONSTRAINT "standing_source" CHECK ("standing_corrections"."source" in ('as-found', 'proved', 'accepted', 'taken-back'))
);--> statement-breakpoint
CREATE TABLE "rigs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"printer_id" uuid NOT NULL,
	"cutter_id" uuid NOT NULL,
	"changeable" text DEFAULT 'settings-and-file' NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "rigs_changeable" CHECK ("rigs"."changeable" in ('settings-and-file', 'settings', 'file', 'machine-page', 'nothing')),
	CONSTRAINT "rigs_names" CHECK (length("rigs"."name") between 1 and 60)
);--> statement-breakpoint
ALTER TABLE "setups" ADD COLUMN "rig_id" uuid, ADD COLUMN "label" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "events" ADD COLUMN "rig_id" uuid;--> statement-breakpoint
ALTER TABLE "setting_changes" ADD COLUMN "setup_id" uuid;--> statement-breakpoint
ALTER TABLE "machine_settings" ADD COLUMN "machine_id" uuid, ADD COLUMN "kept" text DEFAULT 'one' NOT NULL, ADD COLUMN "words" jsonb DEFAULT '{}'::jsonb NOT NULL, ADD CONSTRAINT "machine_settings_kept" CHECK ("machine_settings"."kept" in ('one', 'per-medium'));--> statement-breakpoint
-- Rows of one printer and one cutter are of the same machines when all their figures agree. Where they do not, nobody
-- but the operator can tell whether one is out of date, the machine keeps one per medium, or there are two of it: such
-- rows stay apart, and the rig's page offers to put them together. Two of the same medium and size are two machines.
CREATE TEMPORARY TABLE "old_rigs" AS
SELECT s.*, row_number() OVER (
    PARTITION BY printer_key, cutter_key, figures, changeable, marks_read, media_id, sheet_width_mm, sheet_height_mm
    ORDER BY archived_at IS NOT NULL, created_at, id) AS copy
FROM (
  SELECT r.id, r.created_at, r.archived_at, r.name, r.printer, r.cutter, r.media_id, r.changeable,
    r.sheet_width_mm, r.sheet_height_mm, coalesce((r.marks->>'count')::int, 0) AS marks_read,
    lower(regexp_replace(btrim(r.printer), '\s+', ' ', 'g')) AS printer_key,
    lower(regexp_replace(btrim(r.cutter), '\s+', ' ', 'g')) AS cutter_key,
    coalesce((
      SELECT string_agg(concat_ws('|', t.name, t.kind, t.unit, t.step, t.value, coalesce(t.min::text, '-'),
        coalesce(t.max::text, '-'), t.display, t.direction, t.anchor_x_mm, t.anchor_y_mm,
        coalesce(t.nominal_mm::text, '-')), E'\n' ORDER BY t.position)
      FROM machine_settings t WHERE t.setup_id = r.id AND t.retired_at IS NULL), '') AS figures
  FROM setups r
) s;--> statement-breakpoint
CREATE TEMPORARY TABLE "new_cutters" AS
SELECT printer_key, cutter_key, figures, copy, gen_random_uuid() AS id, printer_key = cutter_key AS both_in_one,
  (array_agg(cutter ORDER BY archived_at IS NOT NULL, created_at, old_rigs.id))[1] AS name, min(created_at) AS created_at
FROM old_rigs GROUP BY printer_key, cutter_key, figures, copy;--> statement-breakpoint
INSERT INTO "machines" (id, name, prints, cuts, created_at)
SELECT id, btrim(name), both_in_one, true, created_at FROM new_cutters;--> statement-breakpoint
CREATE TEMPORARY TABLE "new_printers" AS
SELECT printer_key, gen_random_uuid() AS id, (array_agg(printer ORDER BY archived_at IS NOT NULL, created_at, old_rigs.id))[1] AS name,
  min(created_at) AS created_at
FROM old_rigs WHERE printer_key <> cutter_key GROUP BY printer_key;--> statement-breakpoint
INSERT INTO "machines" (id, name, prints, cuts, created_at)
SELECT id, btrim(name), true, false, created_at FROM new_printers;--> statement-breakpoint
CREATE TEMPORARY TABLE "new_rigs" AS
SELECT c.id AS cutter_id, coalesce(p.id, c.id) AS printer_id, o.changeable, o.marks_read, gen_random_uuid() AS id,
  (array_agg(o.name ORDER BY o.archived_at IS NOT NULL, o.created_at, o.id))[1] AS name, min(o.created_at) AS created_at,
  array_agg(o.id) AS setup_ids
FROM old_rigs o
JOIN new_cutters c USING (printer_key, cutter_key, figures, copy)
LEFT JOIN new_printers p ON p.printer_key = o.printer_key AND NOT c.both_in_one
GROUP BY c.id, p.id, o.changeable, o.marks_read;--> statement-breakpoint
INSERT INTO "rigs" (id, name, printer_id, cutter_id, changeable, created_at)
SELECT id, name, printer_id, cutter_id, changeable, created_at FROM new_rigs;--> statement-breakpoint
UPDATE "setups" s SET rig_id = r.id, label = CASE WHEN s.name = r.name THEN '' ELSE s.name END
FROM new_rigs r WHERE s.id = ANY (r.setup_ids);--> statement-breakpoint
-- What was noted before was noted of one row: it goes on concerning that setup alone.
UPDATE "events" e SET rig_id = s.rig_id FROM setups s WHERE s.id = e.setup_id;--> statement-breakpoint
UPDATE "setting_changes" c SET setup_id = t.setup_id FROM machine_settings t WHERE t.id = c.setting_id;--> statement-breakpoint
UPDATE "machine_settings" t SET machine_id = r.cutter_id FROM setups s JOIN rigs r ON r.id = s.rig_id WHERE s.id = t.setup_id;--> statement-breakpoint
-- One setting of one machine was a row for each medium: they become one, and what was kept under the others’ ids follows.
CREATE TEMPORARY TABLE "same_settings" AS
SELECT id AS old_id, setup_id, value, first_value(id) OVER (
    PARTITION BY machine_id, place ORDER BY archived_at IS NOT NULL, created_at, setup_id) AS id
FROM (
  SELECT t.id, t.setup_id, t.machine_id, t.value, s.archived_at, s.created_at,
    row_number() OVER (PARTITION BY t.setup_id ORDER BY t.position) AS place
  FROM machine_settings t JOIN setups s ON s.id = t.setup_id WHERE t.retired_at IS NULL
) ranked;--> statement-breakpoint
DO $$
DECLARE same record;
BEGIN
  FOR same IN SELECT old_id::text AS was, id::text AS now, setup_id FROM same_settings WHERE old_id <> id LOOP
    UPDATE passes SET settings_at_cut = replace(settings_at_cut::text, same.was, same.now)::jsonb
      WHERE session_id IN (SELECT id FROM sessions WHERE setup_id = same.setup_id);
    UPDATE fits SET inputs = replace(inputs::text, same.was, same.now)::jsonb, result = replace(result::text, same.was, same.now)::jsonb
      WHERE pass_id IN (SELECT p.id FROM passes p JOIN sessions s ON s.id = p.session_id WHERE s.setup_id = same.setup_id);
    UPDATE corrections SET changes = replace(changes::text, same.was, same.now)::jsonb, plan = replace(plan::text, same.was, same.now)::jsonb
      WHERE fit_id IN (SELECT f.id FROM fits f JOIN passes p ON p.id = f.pass_id JOIN sessions s ON s.id = p.session_id WHERE s.setup_id = same.setup_id);
    UPDATE setups SET simulation = replace(simulation::text, same.was, same.now)::jsonb WHERE id = same.setup_id AND simulation IS NOT NULL;
    UPDATE setting_changes SET setting_id = same.now::uuid WHERE setting_id = same.was::uuid;
    DELETE FROM machine_settings WHERE id = same.was::uuid;
  END LOOP;
END $$;--> statement-breakpoint
INSERT INTO "setting_values" (setting_id, value, since, by)
SELECT t.id, t.value, coalesce(c.changed_at, s.created_at), coalesce(c.changed_by, '')
FROM machine_settings t JOIN setups s ON s.id = t.setup_id
LEFT JOIN LATERAL (SELECT changed_at, changed_by FROM setting_changes x WHERE x.setting_id = t.id ORDER BY changed_at DESC LIMIT 1) c ON true;--> statement-breakpoint
-- What a row’s figures and its last correction said is what its setup shall have from day to day.
INSERT INTO "standing_corrections" (setup_id, settings, file_transform, source, session_id, correction_id, r95_mm, by, since)
SELECT s.id,
  coalesce((SELECT jsonb_object_agg(t.id, t.value) FROM same_settings t WHERE t.setup_id = s.id), '{}'),
  CASE k.done WHEN 'file' THEN k.whole_transform WHEN 'both' THEN k.rest_transform END,
  CASE WHEN k.id IS NULL THEN 'as-found' WHEN k.outcome IN ('plumb', 'leaning') THEN 'proved' ELSE 'accepted' END,
  k.session_id, k.id, k.outcome_r95_mm,
  coalesce(k.done_by, (SELECT changed_by FROM setting_changes c WHERE c.setup_id = s.id ORDER BY changed_at LIMIT 1), ''),
  coalesce(k.done_at, s.created_at)
FROM setups s
LEFT JOIN LATERAL (
  SELECT c.id, c.done, c.done_by, c.done_at, c.whole_transform, c.rest_transform, n.id AS session_id, n.outcome, n.outcome_r95_mm
  FROM corrections c JOIN fits f ON f.id = c.fit_id JOIN passes p ON p.id = f.pass_id JOIN sessions n ON n.id = p.session_id
  WHERE n.setup_id = s.id AND NOT n.discarded AND n.closed_at IS NOT NULL AND c.done <> 'leave'
  ORDER BY c.done_at DESC LIMIT 1
) k ON true;--> statement-breakpoint
DROP TABLE "old_rigs", "new_cutters", "new_printers", "new_rigs", "same_settings";--> statement-breakpoint
ALTER TABLE "setups" DROP COLUMN "name", DROP COLUMN "printer", DROP COLUMN "cutter", DROP COLUMN "changeable", ALTER COLUMN "rig_id" SET NOT NULL, ADD CONSTRAINT "setups_label" CHECK (length("setups"."label") <= 60);--> statement-breakpoint
ALTER TABLE "machine_settings" DROP COLUMN "setup_id", DROP COLUMN "value", ALTER COLUMN "machine_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "events" ALTER COLUMN "rig_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "change_overs" ADD CONSTRAINT "change_overs_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_overs" ADD CONSTRAINT "change_overs_setup_id_setups_id_fk" FOREIGN KEY ("setup_id") REFERENCES "public"."setups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "machine_settings" ADD CONSTRAINT "machine_settings_machine_id_machines_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setting_values" ADD CONSTRAINT "setting_values_setting_id_machine_settings_id_fk" FOREIGN KEY ("setting_id") REFERENCES "public"."machine_settings"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setting_values" ADD CONSTRAINT "setting_values_media_id_media_id_fk" FOREIGN KEY ("media_id") REFERENCES "public"."media"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setups" ADD CONSTRAINT "setups_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing_corrections" ADD CONSTRAINT "standing_corrections_setup_id_setups_id_fk" FOREIGN KEY ("setup_id") REFERENCES "public"."setups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing_corrections" ADD CONSTRAINT "standing_corrections_session_id_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing_corrections" ADD CONSTRAINT "standing_corrections_correction_id_corrections_id_fk" FOREIGN KEY ("correction_id") REFERENCES "public"."corrections"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "change_overs_rig" ON "change_overs" USING btree ("rig_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "machine_settings_position" ON "machine_settings" USING btree ("machine_id","position") WHERE retired_at is null;--> statement-breakpoint
CREATE UNIQUE INDEX "setups_in_use" ON "setups" USING btree ("rig_id","media_id","sheet_width_mm","sheet_height_mm","label") WHERE archived_at is null;--> statement-breakpoint
CREATE INDEX "setups_rig" ON "setups" USING btree ("rig_id");--> statement-breakpoint
CREATE UNIQUE INDEX "standing_current" ON "standing_corrections" USING btree ("setup_id") WHERE replaced_at is null;--> statement-breakpoint
CREATE INDEX "standing_setup" ON "standing_corrections" USING btree ("setup_id","since");--> statement-breakpoint
ALTER TABLE "rigs" ADD CONSTRAINT "rigs_printer_id_machines_id_fk" FOREIGN KEY ("printer_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rigs" ADD CONSTRAINT "rigs_cutter_id_machines_id_fk" FOREIGN KEY ("cutter_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setting_changes" ADD CONSTRAINT "setting_changes_setup_id_setups_id_fk" FOREIGN KEY ("setup_id") REFERENCES "public"."setups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "rigs_cutter" ON "rigs" USING btree ("cutter_id");--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "events_rig" ON "events" USING btree ("rig_id","happened_at");
