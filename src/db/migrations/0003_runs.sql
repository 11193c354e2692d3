CREATE TABLE "drift_estimates" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"rig_id" uuid NOT NULL,
	"version" text NOT NULL,
	"fingerprint" text NOT NULL,
	"inputs" jsonb NOT NULL,
	"result" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run_checks" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"run_id" uuid NOT NULL,
	"section" integer NOT NULL,
	"place" text NOT NULL,
	"y_mm" double precision NOT NULL,
	"dx_mm" double precision,
	"dy_mm" double precision,
	"u_mm" double precision NOT NULL,
	"way" text NOT NULL,
	"entered_by" text NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"replaced_at" timestamp with time zone,
	CONSTRAINT "run_checks_place" CHECK ("run_checks"."place" in ('first row', 'last row')),
	CONSTRAINT "run_checks_way" CHECK ("run_checks"."way" in ('comb', 'gaps', 'ruler')),
	CONSTRAINT "run_checks_something" CHECK ("run_checks"."dx_mm" is not null or "run_checks"."dy_mm" is not null),
	CONSTRAINT "run_checks_u" CHECK ("run_checks"."u_mm" > 0)
);
--> statement-breakpoint
CREATE TABLE "run_events" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"run_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"section" integer,
	"detail" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"by" text NOT NULL,
	"happened_at" timestamp with time zone NOT NULL,
	CONSTRAINT "run_events_kind" CHECK ("run_events"."kind" in ('released', 'registered', 'slip-kept', 'laminated', 'paused', 'resumed', 'closed', 'reopened'))
);
--> statement-breakpoint
CREATE TABLE "run_files" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"run_id" uuid NOT NULL,
	"section" integer NOT NULL,
	"file_name" text NOT NULL,
	"format" text NOT NULL,
	"applied" jsonb,
	"content" text NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run_sections" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"run_id" uuid NOT NULL,
	"index" integer NOT NULL,
	"state" text NOT NULL,
	"applied" jsonb,
	"cut_by" text,
	"cut_at" timestamp with time zone,
	"spoiled" integer,
	CONSTRAINT "run_sections_state" CHECK ("run_sections"."state" in ('waiting', 'cut', 'finished')),
	CONSTRAINT "run_sections_spoiled" CHECK ("run_sections"."spoiled" is null or "run_sections"."spoiled" >= 0)
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" serial NOT NULL,
	"rig_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"stage" text NOT NULL,
	"plan" jsonb,
	"knowledge" jsonb,
	"item_file" text,
	"started_by" text NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"closed_by" text,
	"closed_at" timestamp with time zone,
	"outcome" jsonb,
	CONSTRAINT "runs_number_unique" UNIQUE("number"),
	CONSTRAINT "runs_kind" CHECK ("runs"."kind" in ('job', 'two-marks')),
	CONSTRAINT "runs_stage" CHECK ("runs"."stage" in ('release', 'running', 'paused', 'closed')),
	CONSTRAINT "runs_closed" CHECK (("runs"."stage" = 'closed') = ("runs"."closed_at" is not null)),
	CONSTRAINT "runs_plan" CHECK ("runs"."kind" <> 'job' or "runs"."plan" is not null)
);
--> statement-breakpoint
CREATE TABLE "tape_measures" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"rig_id" uuid NOT NULL,
	"of" text NOT NULL,
	"nominal_mm" double precision NOT NULL,
	"measured_mm" double precision NOT NULL,
	"u_mm" double precision NOT NULL,
	"entered_by" text NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	CONSTRAINT "tape_measures_of" CHECK ("tape_measures"."of" in ('print', 'cut')),
	CONSTRAINT "tape_measures_lengths" CHECK ("tape_measures"."nominal_mm" > 0 and "tape_measures"."measured_mm" > 0 and "tape_measures"."u_mm" > 0)
);
--> statement-breakpoint
ALTER TABLE "sessions" DROP CONSTRAINT "sessions_kind";--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "media_class" text DEFAULT 'film' NOT NULL;--> statement-breakpoint
ALTER TABLE "drift_estimates" ADD CONSTRAINT "drift_estimates_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_checks" ADD CONSTRAINT "run_checks_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_events" ADD CONSTRAINT "run_events_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_files" ADD CONSTRAINT "run_files_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_sections" ADD CONSTRAINT "run_sections_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tape_measures" ADD CONSTRAINT "tape_measures_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "drift_estimates_of" ON "drift_estimates" USING btree ("rig_id","version","fingerprint");--> statement-breakpoint
CREATE UNIQUE INDEX "run_checks_current" ON "run_checks" USING btree ("run_id","section","place") WHERE replaced_at is null;--> statement-breakpoint
CREATE INDEX "run_checks_run" ON "run_checks" USING btree ("run_id");--> statement-breakpoint
CREATE INDEX "run_events_run" ON "run_events" USING btree ("run_id","happened_at");--> statement-breakpoint
CREATE INDEX "run_files_run" ON "run_files" USING btree ("run_id","section");--> statement-breakpoint
CREATE UNIQUE INDEX "run_sections_index" ON "run_sections" USING btree ("run_id","index");--> statement-breakpoint
CREATE INDEX "runs_rig" ON "runs" USING btree ("rig_id","started_at");--> statement-breakpoint
CREATE INDEX "tape_measures_rig" ON "tape_measures" USING btree ("rig_id","entered_at");--> statement-breakpoint
ALTER TABLE "rigs" ADD CONSTRAINT "rigs_media_class" CHECK ("rigs"."media_class" in ('film', 'paper', 'transfer'));--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_kind" CHECK ("sessions"."kind" in ('calibration', 'quick-check', 'roll-proof'));