ALTER TABLE "events" DROP CONSTRAINT "events_kind";--> statement-breakpoint
ALTER TABLE "run_events" DROP CONSTRAINT "run_events_kind";--> statement-breakpoint
DROP INDEX "run_checks_current";--> statement-breakpoint
DROP INDEX "run_checks_run";--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "roll" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "feed_percent" double precision;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "feed_set_at" timestamp with time zone;--> statement-breakpoint
CREATE INDEX "run_checks_run" ON "run_checks" USING btree ("run_id","section","place");--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_kind" CHECK ("events"."kind" in ('moved', 'unplugged', 'firmware', 'new-blade', 'media-change', 'size-change', 'long-idle', 'feed', 'other'));--> statement-breakpoint
ALTER TABLE "rigs" ADD CONSTRAINT "rigs_feed" CHECK ("rigs"."feed_percent" is null or "rigs"."feed_percent" between 50 and 200);--> statement-breakpoint
ALTER TABLE "run_events" ADD CONSTRAINT "run_events_kind" CHECK ("run_events"."kind" in ('released', 'registered', 'slip-kept', 'laminated', 'undone', 'paused', 'resumed', 'closed', 'reopened'));