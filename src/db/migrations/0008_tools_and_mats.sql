CREATE TABLE "mats" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"machine_id" uuid NOT NULL,
	"name" text NOT NULL,
	"grip" text NOT NULL,
	"colour" text DEFAULT '' NOT NULL,
	"width_mm" double precision NOT NULL,
	"height_mm" double precision NOT NULL,
	"wear" text NOT NULL,
	"retired_at" timestamp with time zone,
	CONSTRAINT "mats_grip" CHECK ("mats"."grip" in ('light', 'standard', 'strong')),
	CONSTRAINT "mats_wear" CHECK ("mats"."wear" in ('fresh', 'used', 'worn')),
	CONSTRAINT "mats_size" CHECK ("mats"."width_mm" > 0 and "mats"."height_mm" > 0)
);
--> statement-breakpoint
CREATE TABLE "tools" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"machine_id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"holder" text DEFAULT '' NOT NULL,
	"fitted_at" timestamp with time zone NOT NULL,
	"metres_run" double precision,
	"retired_at" timestamp with time zone,
	CONSTRAINT "tools_kind" CHECK ("tools"."kind" in ('knife', 'rotary', 'creaser', 'pen')),
	CONSTRAINT "tools_run" CHECK ("tools"."metres_run" is null or "tools"."metres_run" >= 0)
);
--> statement-breakpoint
DROP INDEX "setups_in_use";--> statement-breakpoint
ALTER TABLE "machines" ADD COLUMN "reach_mm" double precision;--> statement-breakpoint
ALTER TABLE "machines" ADD COLUMN "start_up" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "grip" text;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "mirrored" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "setups" ADD COLUMN "tool_id" uuid;--> statement-breakpoint
ALTER TABLE "setups" ADD COLUMN "mat_id" uuid;--> statement-breakpoint
ALTER TABLE "setups" ADD COLUMN "driver_width_mm" double precision;--> statement-breakpoint
ALTER TABLE "setups" ADD COLUMN "driver_height_mm" double precision;--> statement-breakpoint
ALTER TABLE "mats" ADD CONSTRAINT "mats_machine_id_machines_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tools" ADD CONSTRAINT "tools_machine_id_machines_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "mats_machine" ON "mats" USING btree ("machine_id");--> statement-breakpoint
CREATE INDEX "tools_machine" ON "tools" USING btree ("machine_id");--> statement-breakpoint
ALTER TABLE "setups" ADD CONSTRAINT "setups_tool_id_tools_id_fk" FOREIGN KEY ("tool_id") REFERENCES "public"."tools"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setups" ADD CONSTRAINT "setups_mat_id_mats_id_fk" FOREIGN KEY ("mat_id") REFERENCES "public"."mats"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "setups_in_use" ON "setups" USING btree ("rig_id","media_id","sheet_width_mm","sheet_height_mm","label",coalesce("tool_id", '00000000-0000-0000-0000-000000000000')) WHERE archived_at is null;