CREATE TABLE "corrected_files" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"correction_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"rest_only" boolean NOT NULL,
	"transform" jsonb NOT NULL,
	"report" jsonb NOT NULL,
	"content" text NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "corrections" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"fit_id" uuid NOT NULL,
	"version" text NOT NULL,
	"decision" text NOT NULL,
	"changes" jsonb NOT NULL,
	"rest_transform" jsonb NOT NULL,
	"whole_transform" jsonb NOT NULL,
	"plan" jsonb NOT NULL,
	"done" text,
	"done_by" text,
	"done_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "corrections_decision" CHECK ("corrections"."decision" in ('correct', 'leave')),
	CONSTRAINT "corrections_done" CHECK ("corrections"."done" is null or "corrections"."done" in ('settings', 'file', 'both', 'leave'))
);
--> statement-breakpoint
CREATE TABLE "events" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"rig_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"recorded_by" text NOT NULL,
	"happened_at" timestamp with time zone NOT NULL,
	CONSTRAINT "events_kind" CHECK ("events"."kind" in ('moved', 'unplugged', 'firmware', 'new-blade', 'media-change', 'size-change', 'long-idle', 'other'))
);
--> statement-breakpoint
CREATE TABLE "fits" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"pass_id" uuid NOT NULL,
	"version" text NOT NULL,
	"recommended" text NOT NULL,
	"widest" text NOT NULL,
	"inputs" jsonb NOT NULL,
	"result" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "media" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "media_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "passes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"session_id" uuid NOT NULL,
	"position" smallint NOT NULL,
	"sheet_id" uuid NOT NULL,
	"station_set" smallint NOT NULL,
	"purpose" text NOT NULL,
	"settings_at_cut" jsonb NOT NULL,
	"file_transform" jsonb,
	"load" integer NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "passes_set" CHECK ("passes"."station_set" in (1, 2)),
	CONSTRAINT "passes_purpose" CHECK ("passes"."purpose" in ('measure', 'prove'))
);
--> statement-breakpoint
CREATE TABLE "proof_sheets" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" serial NOT NULL,
	"rig_id" uuid NOT NULL,
	"geometry" jsonb NOT NULL,
	"rig_name" text NOT NULL,
	"media_name" text NOT NULL,
	"address" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"printed_at" timestamp with time zone,
	"printed_by" text,
	CONSTRAINT "proof_sheets_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "readings" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"pass_id" uuid NOT NULL,
	"station_id" text NOT NULL,
	"axis" text NOT NULL,
	"pick" jsonb NOT NULL,
	"coarse_mm" double precision,
	"x_mm" double precision NOT NULL,
	"y_mm" double precision NOT NULL,
	"offset_mm" double precision NOT NULL,
	"u_mm" double precision NOT NULL,
	"entered_by" text NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"replaced_at" timestamp with time zone,
	CONSTRAINT "readings_axis" CHECK ("readings"."axis" in ('across', 'along')),
	CONSTRAINT "readings_u_positive" CHECK ("readings"."u_mm" > 0)
);
--> statement-breakpoint
CREATE TABLE "rig_settings" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"rig_id" uuid NOT NULL,
	"position" smallint NOT NULL,
	"name" text NOT NULL,
	"unit" text NOT NULL,
	"step" double precision NOT NULL,
	"value" double precision NOT NULL,
	"min" double precision,
	"max" double precision,
	"display" text DEFAULT 'signed' NOT NULL,
	"direction" text NOT NULL,
	"retired_at" timestamp with time zone,
	CONSTRAINT "rig_settings_unit" CHECK ("rig_settings"."unit" in ('mm', 'in')),
	CONSTRAINT "rig_settings_step_positive" CHECK ("rig_settings"."step" > 0),
	CONSTRAINT "rig_settings_range" CHECK ("rig_settings"."min" is null or "rig_settings"."max" is null or "rig_settings"."min" < "rig_settings"."max"),
	CONSTRAINT "rig_settings_display" CHECK ("rig_settings"."display" in ('signed', 'sign-and-size')),
	CONSTRAINT "rig_settings_direction" CHECK ("rig_settings"."direction" in ('right', 'left', 'further', 'back'))
);
--> statement-breakpoint
CREATE TABLE "rigs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"printer" text NOT NULL,
	"cutter" text NOT NULL,
	"media_id" uuid NOT NULL,
	"sheet_width_mm" double precision NOT NULL,
	"sheet_height_mm" double precision NOT NULL,
	"area_x0_mm" double precision NOT NULL,
	"area_y0_mm" double precision NOT NULL,
	"area_x1_mm" double precision NOT NULL,
	"area_y1_mm" double precision NOT NULL,
	"tolerance_mm" double precision NOT NULL,
	"simulation" jsonb,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone,
	CONSTRAINT "rigs_sheet_positive" CHECK ("rigs"."sheet_width_mm" > 0 and "rigs"."sheet_height_mm" > 0),
	CONSTRAINT "rigs_area_inside_sheet" CHECK ("rigs"."area_x0_mm" >= 0 and "rigs"."area_y0_mm" >= 0 and "rigs"."area_x1_mm" > "rigs"."area_x0_mm" and "rigs"."area_y1_mm" > "rigs"."area_y0_mm" and "rigs"."area_x1_mm" <= "rigs"."sheet_width_mm" + 1e-6 and "rigs"."area_y1_mm" <= "rigs"."sheet_height_mm" + 1e-6),
	CONSTRAINT "rigs_tolerance_positive" CHECK ("rigs"."tolerance_mm" > 0),
	CONSTRAINT "rigs_names" CHECK (length("rigs"."name") between 1 and 60)
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" serial NOT NULL,
	"rig_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"stage" text NOT NULL,
	"started_by" text NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"closed_by" text,
	"closed_at" timestamp with time zone,
	"outcome" text,
	"outcome_r95_mm" double precision,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "sessions_number_unique" UNIQUE("number"),
	CONSTRAINT "sessions_kind" CHECK ("sessions"."kind" in ('calibration', 'quick-check')),
	CONSTRAINT "sessions_stage" CHECK ("sessions"."stage" in ('print', 'read', 'correct', 'prove', 'closed')),
	CONSTRAINT "sessions_closed" CHECK (("sessions"."stage" = 'closed') = ("sessions"."closed_at" is not null)),
	CONSTRAINT "sessions_outcome" CHECK ("sessions"."outcome" is null or "sessions"."outcome" in ('plumb', 'leaning', 'out-of-plumb'))
);
--> statement-breakpoint
CREATE TABLE "setting_changes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"setting_id" uuid NOT NULL,
	"from_value" double precision,
	"to_value" double precision NOT NULL,
	"reason" text NOT NULL,
	"correction_id" uuid,
	"changed_by" text NOT NULL,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "corrected_files" ADD CONSTRAINT "corrected_files_correction_id_corrections_id_fk" FOREIGN KEY ("correction_id") REFERENCES "public"."corrections"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "corrections" ADD CONSTRAINT "corrections_fit_id_fits_id_fk" FOREIGN KEY ("fit_id") REFERENCES "public"."fits"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fits" ADD CONSTRAINT "fits_pass_id_passes_id_fk" FOREIGN KEY ("pass_id") REFERENCES "public"."passes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passes" ADD CONSTRAINT "passes_session_id_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passes" ADD CONSTRAINT "passes_sheet_id_proof_sheets_id_fk" FOREIGN KEY ("sheet_id") REFERENCES "public"."proof_sheets"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proof_sheets" ADD CONSTRAINT "proof_sheets_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "readings" ADD CONSTRAINT "readings_pass_id_passes_id_fk" FOREIGN KEY ("pass_id") REFERENCES "public"."passes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rig_settings" ADD CONSTRAINT "rig_settings_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rigs" ADD CONSTRAINT "rigs_media_id_media_id_fk" FOREIGN KEY ("media_id") REFERENCES "public"."media"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setting_changes" ADD CONSTRAINT "setting_changes_setting_id_rig_settings_id_fk" FOREIGN KEY ("setting_id") REFERENCES "public"."rig_settings"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setting_changes" ADD CONSTRAINT "setting_changes_correction_id_corrections_id_fk" FOREIGN KEY ("correction_id") REFERENCES "public"."corrections"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "corrections_fit" ON "corrections" USING btree ("fit_id");--> statement-breakpoint
CREATE INDEX "events_rig" ON "events" USING btree ("rig_id","happened_at");--> statement-breakpoint
CREATE UNIQUE INDEX "passes_position" ON "passes" USING btree ("session_id","position");--> statement-breakpoint
CREATE INDEX "proof_sheets_rig" ON "proof_sheets" USING btree ("rig_id");--> statement-breakpoint
CREATE UNIQUE INDEX "readings_current" ON "readings" USING btree ("pass_id","station_id","axis") WHERE replaced_at is null;--> statement-breakpoint
CREATE UNIQUE INDEX "rig_settings_position" ON "rig_settings" USING btree ("rig_id","position") WHERE retired_at is null;--> statement-breakpoint
CREATE UNIQUE INDEX "rigs_name_in_use" ON "rigs" USING btree ("name","media_id") WHERE archived_at is null;--> statement-breakpoint
CREATE UNIQUE INDEX "sessions_one_open" ON "sessions" USING btree ("rig_id","kind") WHERE closed_at is null;--> statement-breakpoint
CREATE INDEX "sessions_rig" ON "sessions" USING btree ("rig_id","started_at");