ALTER TABLE "corrections" DROP CONSTRAINT "corrections_done";--> statement-breakpoint
ALTER TABLE "rig_settings" DROP CONSTRAINT "rig_settings_unit";--> statement-breakpoint
ALTER TABLE "rig_settings" DROP CONSTRAINT "rig_settings_direction";--> statement-breakpoint
ALTER TABLE "passes" ADD COLUMN "recipe" jsonb;--> statement-breakpoint
ALTER TABLE "passes" ADD COLUMN "bar_across_mm" double precision;--> statement-breakpoint
ALTER TABLE "passes" ADD COLUMN "bar_along_mm" double precision;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "set_aside_by" text;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "set_aside_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "rig_settings" ADD COLUMN "kind" text DEFAULT 'offset' NOT NULL;--> statement-breakpoint
ALTER TABLE "rig_settings" ADD COLUMN "anchor_x_mm" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "rig_settings" ADD COLUMN "anchor_y_mm" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "rig_settings" ADD COLUMN "nominal_mm" double precision;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "changeable" text DEFAULT 'settings-and-file' NOT NULL;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "marks" jsonb;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "recipe" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "corrections" ADD CONSTRAINT "corrections_done" CHECK ("corrections"."done" is null or "corrections"."done" in ('settings', 'file', 'both', 'machine-page', 'leave'));--> statement-breakpoint
ALTER TABLE "passes" ADD CONSTRAINT "passes_bars" CHECK (("passes"."bar_across_mm" is null or "passes"."bar_across_mm" > 0) and ("passes"."bar_along_mm" is null or "passes"."bar_along_mm" > 0));--> statement-breakpoint
ALTER TABLE "rig_settings" ADD CONSTRAINT "rig_settings_nominal" CHECK ("rig_settings"."kind" <> 'length' or coalesce("rig_settings"."nominal_mm", 0) > 0);--> statement-breakpoint
ALTER TABLE "rig_settings" ADD CONSTRAINT "rig_settings_unit" CHECK (("rig_settings"."kind" in ('offset', 'length') and "rig_settings"."unit" in ('mm', 'in')) or ("rig_settings"."kind" = 'scale' and "rig_settings"."unit" in ('percent', 'permille', 'mm-per-m')) or ("rig_settings"."kind" = 'turn' and "rig_settings"."unit" in ('degree', 'mm-per-m')));--> statement-breakpoint
ALTER TABLE "rig_settings" ADD CONSTRAINT "rig_settings_direction" CHECK (("rig_settings"."kind" = 'offset' and "rig_settings"."direction" in ('right', 'left', 'further', 'back')) or ("rig_settings"."kind" in ('scale', 'length') and "rig_settings"."direction" in ('wider', 'narrower', 'longer', 'shorter')) or ("rig_settings"."kind" = 'turn' and "rig_settings"."direction" in ('anticlockwise', 'clockwise')));--> statement-breakpoint
ALTER TABLE "rigs" ADD CONSTRAINT "rigs_changeable" CHECK ("rigs"."changeable" in ('settings-and-file', 'settings', 'file', 'machine-page', 'nothing'));