CREATE TABLE "print_placements" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"printer_id" uuid NOT NULL,
	"tray" text NOT NULL,
	"sheet_width_mm" double precision NOT NULL,
	"sheet_height_mm" double precision NOT NULL,
	"x_mm" double precision NOT NULL,
	"y_mm" double precision NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "print_shifts" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"printer_id" uuid NOT NULL,
	"tray" text NOT NULL,
	"sheet_width_mm" double precision NOT NULL,
	"sheet_height_mm" double precision NOT NULL,
	"dx_mm" double precision NOT NULL,
	"dy_mm" double precision NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "print_placements" ADD CONSTRAINT "print_placements_printer_id_machines_id_fk" FOREIGN KEY ("printer_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "print_shifts" ADD CONSTRAINT "print_shifts_job_id_sheet_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."sheet_jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "print_shifts" ADD CONSTRAINT "print_shifts_printer_id_machines_id_fk" FOREIGN KEY ("printer_id") REFERENCES "public"."machines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "print_placements_of" ON "print_placements" USING btree ("printer_id","tray","sheet_width_mm","sheet_height_mm","at");--> statement-breakpoint
CREATE INDEX "print_shifts_of" ON "print_shifts" USING btree ("printer_id","tray","sheet_width_mm","sheet_height_mm","at");