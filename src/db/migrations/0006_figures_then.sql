ALTER TABLE "rigs" ADD COLUMN "bob_first" boolean;--> statement-breakpoint
ALTER TABLE "run_sections" ADD COLUMN "file_id" uuid;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "media_then" text;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "media_then" text;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "tolerance_then_mm" double precision;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "unproved" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "run_sections" ADD CONSTRAINT "run_sections_file_id_run_files_id_fk" FOREIGN KEY ("file_id") REFERENCES "public"."run_files"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_unproved" CHECK (not "sessions"."unproved" or ("sessions"."stage" = 'closed' and "sessions"."outcome" is null));