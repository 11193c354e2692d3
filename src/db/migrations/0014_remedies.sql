CREATE TABLE "remedies_tried" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"setup_id" uuid NOT NULL,
	"remedy" text NOT NULL,
	"worked" boolean NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"taken_back_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "remedies_tried" ADD CONSTRAINT "remedies_tried_setup_id_setups_id_fk" FOREIGN KEY ("setup_id") REFERENCES "public"."setups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "remedies_tried_setup" ON "remedies_tried" USING btree ("setup_id");