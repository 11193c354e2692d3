CREATE TABLE "lengths" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"pass_id" uuid NOT NULL,
	"from_station" text NOT NULL,
	"to_station" text NOT NULL,
	"print_mm" double precision,
	"cut_mm" double precision NOT NULL,
	"resolution_mm" double precision NOT NULL,
	"entered_by" text NOT NULL,
	"entered_at" timestamp with time zone NOT NULL,
	"replaced_at" timestamp with time zone,
	CONSTRAINT "lengths_positive" CHECK ("lengths"."cut_mm" > 0 and "lengths"."resolution_mm" > 0 and ("lengths"."print_mm" is null or "lengths"."print_mm" > 0))
);
--> statement-breakpoint
ALTER TABLE "lengths" ADD CONSTRAINT "lengths_pass_id_passes_id_fk" FOREIGN KEY ("pass_id") REFERENCES "public"."passes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "lengths_current" ON "lengths" USING btree ("pass_id","from_station","to_station") WHERE replaced_at is null;