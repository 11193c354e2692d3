ALTER TABLE "corrections" DROP CONSTRAINT "corrections_done";--> statement-breakpoint
ALTER TABLE "machine_settings" ADD COLUMN "direction_known" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "corrections" ADD CONSTRAINT "corrections_done" CHECK ("corrections"."done" is null or "corrections"."done" in ('settings', 'file', 'both', 'machine-page', 'push', 'leave'));