CREATE TABLE "acts" (
	"request" uuid PRIMARY KEY NOT NULL,
	"act" text NOT NULL,
	"subject_id" uuid,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"result" jsonb
);
--> statement-breakpoint
CREATE TABLE "file_contents" (
	"sha256" text PRIMARY KEY NOT NULL,
	"content" text,
	"bytes" integer NOT NULL,
	"kept_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shop_facts" (
	"name" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
DROP INDEX "run_files_run";--> statement-breakpoint
-- Contents of files, each once.
ALTER TABLE "corrected_files" ADD COLUMN "sha256" text;--> statement-breakpoint
ALTER TABLE "run_files" ADD COLUMN "sha256" text;--> statement-breakpoint
UPDATE "corrected_files" SET "sha256" = encode(sha256(convert_to("content", 'UTF8')), 'hex');--> statement-breakpoint
UPDATE "run_files" SET "sha256" = encode(sha256(convert_to("content", 'UTF8')), 'hex');--> statement-breakpoint
INSERT INTO "file_contents" ("sha256", "content", "bytes", "kept_at")
  SELECT "sha256", min("content"), octet_length(min("content")), max("made_at")
  FROM (SELECT "sha256", "content", "made_at" FROM "corrected_files"
        UNION ALL SELECT "sha256", "content", "made_at" FROM "run_files") AS made
  GROUP BY "sha256";--> statement-breakpoint
ALTER TABLE "corrected_files" ALTER COLUMN "sha256" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "run_files" ALTER COLUMN "sha256" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "discarded" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "changes" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "acts_subject" ON "acts" USING btree ("subject_id","at");--> statement-breakpoint
ALTER TABLE "corrected_files" ADD CONSTRAINT "corrected_files_sha256_file_contents_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."file_contents"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_files" ADD CONSTRAINT "run_files_sha256_file_contents_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."file_contents"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "corrected_files_correction" ON "corrected_files" USING btree ("correction_id","made_at");--> statement-breakpoint
CREATE INDEX "corrected_files_content" ON "corrected_files" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "fits_pass" ON "fits" USING btree ("pass_id","created_at");--> statement-breakpoint
CREATE INDEX "passes_sheet" ON "passes" USING btree ("sheet_id");--> statement-breakpoint
CREATE INDEX "readings_pass" ON "readings" USING btree ("pass_id","entered_at");--> statement-breakpoint
CREATE INDEX "run_files_content" ON "run_files" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "runs_started" ON "runs" USING btree ("kind","started_at");--> statement-breakpoint
CREATE INDEX "sessions_started" ON "sessions" USING btree ("started_at");--> statement-breakpoint
CREATE INDEX "sessions_told" ON "sessions" USING btree ("rig_id","closed_at") WHERE outcome is not null;--> statement-breakpoint
CREATE INDEX "setting_changes_setting" ON "setting_changes" USING btree ("setting_id","changed_at");--> statement-breakpoint
CREATE INDEX "setting_changes_correction" ON "setting_changes" USING btree ("correction_id");--> statement-breakpoint
CREATE INDEX "run_files_run" ON "run_files" USING btree ("run_id","section","made_at");--> statement-breakpoint
ALTER TABLE "corrected_files" DROP COLUMN "content";--> statement-breakpoint
ALTER TABLE "run_files" DROP COLUMN "content";--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_discarded" CHECK (not "sessions"."discarded" or ("sessions"."stage" = 'closed' and "sessions"."outcome" is null));--> statement-breakpoint
-- A shop that has rigs is past its beginning: no demo is loaded into it later.
INSERT INTO "shop_facts" ("name", "value", "at")
  SELECT 'prepared', '"before"', now() WHERE EXISTS (SELECT 1 FROM "rigs");--> statement-breakpoint
-- The refusal of a frozen sheet has a code of its own, so that nobody takes it for a fault.
CREATE OR REPLACE FUNCTION red_plumb_keep_printed_sheet() RETURNS trigger LANGUAGE plpgsql AS $$
begin
  if old.printed_at is not null and (
    new.geometry is distinct from old.geometry
    or new.number is distinct from old.number
    or new.address is distinct from old.address
    or new.printed_at is null
  ) then
    raise exception 'proof sheet % has been printed and is frozen', old.number using errcode = 'RP001';
  end if;
  return new;
end $$;
