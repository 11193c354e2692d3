ALTER TABLE "corrected_files" ALTER COLUMN "correction_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "corrected_files" ALTER COLUMN "transform" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "corrected_files" ADD COLUMN "setup_id" uuid;--> statement-breakpoint
UPDATE "corrected_files" f SET "setup_id" = s."setup_id"
  FROM "corrections" c JOIN "fits" t ON t."id" = c."fit_id" JOIN "passes" p ON p."id" = t."pass_id"
  JOIN "sessions" s ON s."id" = p."session_id"
  WHERE c."id" = f."correction_id";--> statement-breakpoint
ALTER TABLE "corrected_files" ALTER COLUMN "setup_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "corrected_files" ADD COLUMN "standing_id" uuid;--> statement-breakpoint
ALTER TABLE "corrected_files" ADD COLUMN "lies" jsonb;--> statement-breakpoint
ALTER TABLE "corrected_files" ADD COLUMN "came_by" text DEFAULT 'page' NOT NULL;--> statement-breakpoint
ALTER TABLE "corrected_files" ADD COLUMN "given_sha256" text;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "file_frame" jsonb;--> statement-breakpoint
ALTER TABLE "corrected_files" ADD CONSTRAINT "corrected_files_setup_id_setups_id_fk" FOREIGN KEY ("setup_id") REFERENCES "public"."setups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "corrected_files" ADD CONSTRAINT "corrected_files_standing_id_standing_corrections_id_fk" FOREIGN KEY ("standing_id") REFERENCES "public"."standing_corrections"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "corrected_files_setup" ON "corrected_files" USING btree ("setup_id","made_at");--> statement-breakpoint
CREATE INDEX "corrected_files_made" ON "corrected_files" USING btree ("made_at");--> statement-breakpoint
ALTER TABLE "corrected_files" ADD CONSTRAINT "corrected_files_of_one" CHECK (("corrected_files"."correction_id" is null) <> ("corrected_files"."standing_id" is null));