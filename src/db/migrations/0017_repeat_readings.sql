CREATE TABLE "repeat_readings" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"pass_id" uuid NOT NULL,
	"station_id" text NOT NULL,
	"axis" text NOT NULL,
	"round" smallint NOT NULL,
	"pick" jsonb NOT NULL,
	"offset_mm" double precision NOT NULL,
	"entered_by" text NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"replaced_at" timestamp with time zone,
	CONSTRAINT "repeat_readings_axis" CHECK ("repeat_readings"."axis" in ('across', 'along')),
	CONSTRAINT "repeat_readings_round" CHECK ("repeat_readings"."round" > 0)
);
--> statement-breakpoint
ALTER TABLE "repeat_readings" ADD CONSTRAINT "repeat_readings_pass_id_passes_id_fk" FOREIGN KEY ("pass_id") REFERENCES "public"."passes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "repeat_readings_current" ON "repeat_readings" USING btree ("pass_id","station_id","axis","entered_by","round") WHERE replaced_at is null;--> statement-breakpoint
CREATE INDEX "repeat_readings_entered" ON "repeat_readings" USING btree ("entered_at");