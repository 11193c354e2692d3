CREATE TABLE "artworks" (
	"sha256" text PRIMARY KEY NOT NULL,
	"bytes" "bytea" NOT NULL,
	"width_px" integer NOT NULL,
	"height_px" integer NOT NULL,
	"kept_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sheet_cuts" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"made" jsonb NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sheet_jobs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" serial NOT NULL,
	"setup_id" uuid NOT NULL,
	"name" text NOT NULL,
	"stage" text NOT NULL,
	"art_sha256" text NOT NULL,
	"art_name" text NOT NULL,
	"recipe" jsonb NOT NULL,
	"geometry" jsonb NOT NULL,
	"frozen_as" jsonb,
	"started_by" text NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"frozen_by" text,
	"frozen_at" timestamp with time zone,
	"closed_by" text,
	"closed_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "sheet_jobs_number_unique" UNIQUE("number"),
	CONSTRAINT "sheet_jobs_stage" CHECK ("sheet_jobs"."stage" in ('draft', 'frozen', 'closed')),
	CONSTRAINT "sheet_jobs_frozen" CHECK (("sheet_jobs"."stage" = 'draft') = ("sheet_jobs"."frozen_at" is null)),
	CONSTRAINT "sheet_jobs_closed" CHECK (("sheet_jobs"."stage" = 'closed') = ("sheet_jobs"."closed_at" is not null))
);
--> statement-breakpoint
ALTER TABLE "sheet_cuts" ADD CONSTRAINT "sheet_cuts_job_id_sheet_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."sheet_jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sheet_jobs" ADD CONSTRAINT "sheet_jobs_setup_id_setups_id_fk" FOREIGN KEY ("setup_id") REFERENCES "public"."setups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sheet_jobs" ADD CONSTRAINT "sheet_jobs_art_sha256_artworks_sha256_fk" FOREIGN KEY ("art_sha256") REFERENCES "public"."artworks"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "sheet_cuts_revision" ON "sheet_cuts" USING btree ("job_id","revision");--> statement-breakpoint
CREATE INDEX "sheet_jobs_setup" ON "sheet_jobs" USING btree ("setup_id","started_at");--> statement-breakpoint
CREATE INDEX "sheet_jobs_started" ON "sheet_jobs" USING btree ("started_at");