CREATE TABLE "own_pages" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"setup_id" uuid NOT NULL,
	"medium" text NOT NULL,
	"coarse" text DEFAULT '' NOT NULL,
	"across" double precision NOT NULL,
	"along" double precision NOT NULL,
	"lowest" double precision NOT NULL,
	"highest" double precision NOT NULL,
	"answer" text DEFAULT '' NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"taken_back_at" timestamp with time zone,
	CONSTRAINT "own_pages_range" CHECK ("own_pages"."lowest" < "own_pages"."highest"),
	CONSTRAINT "own_pages_within" CHECK ("own_pages"."across" between "own_pages"."lowest" and "own_pages"."highest" and "own_pages"."along" between "own_pages"."lowest" and "own_pages"."highest")
);
--> statement-breakpoint
ALTER TABLE "own_pages" ADD CONSTRAINT "own_pages_setup_id_setups_id_fk" FOREIGN KEY ("setup_id") REFERENCES "public"."setups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "own_pages_setup" ON "own_pages" USING btree ("setup_id","at");