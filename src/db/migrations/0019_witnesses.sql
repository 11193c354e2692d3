CREATE TABLE "witnesses" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"sheet" integer NOT NULL,
	"session_id" uuid NOT NULL,
	"started_by" text NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	CONSTRAINT "witnesses_session_id_unique" UNIQUE("session_id")
);
--> statement-breakpoint
ALTER TABLE "witnesses" ADD CONSTRAINT "witnesses_job_id_sheet_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."sheet_jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "witnesses" ADD CONSTRAINT "witnesses_session_id_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "witnesses_of_sheet" ON "witnesses" USING btree ("job_id","revision","sheet");