CREATE TABLE "sheet_job_pieces" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"piece" text NOT NULL,
	"art_sha256" text NOT NULL,
	"art_name" text NOT NULL,
	"recipe" jsonb NOT NULL,
	"line_of" text
);
--> statement-breakpoint
ALTER TABLE "sheet_jobs" DROP CONSTRAINT "sheet_jobs_art_sha256_artworks_sha256_fk";--> statement-breakpoint
ALTER TABLE "sheet_job_pieces" ADD CONSTRAINT "sheet_job_pieces_job_id_sheet_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."sheet_jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sheet_job_pieces" ADD CONSTRAINT "sheet_job_pieces_art_sha256_artworks_sha256_fk" FOREIGN KEY ("art_sha256") REFERENCES "public"."artworks"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "sheet_job_pieces_piece" ON "sheet_job_pieces" USING btree ("job_id","piece");--> statement-breakpoint
INSERT INTO "sheet_job_pieces" ("job_id", "piece", "art_sha256", "art_name", "recipe") SELECT "id", 'A', "art_sha256", "art_name", "recipe" FROM "sheet_jobs";--> statement-breakpoint
UPDATE "sheet_jobs" SET "geometry" = jsonb_set("geometry", '{pieces}', (SELECT jsonb_agg(p || jsonb_build_object('copies', "geometry"->'layout'->'copies') ORDER BY n) FROM jsonb_array_elements("geometry"->'pieces') WITH ORDINALITY AS t(p, n))) #- '{layout,copies}';--> statement-breakpoint
ALTER TABLE "sheet_jobs" DROP COLUMN "art_sha256";--> statement-breakpoint
ALTER TABLE "sheet_jobs" DROP COLUMN "art_name";--> statement-breakpoint
ALTER TABLE "sheet_jobs" DROP COLUMN "recipe";