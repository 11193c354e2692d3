CREATE TABLE "found_terms" (
	"pass_id" uuid PRIMARY KEY NOT NULL,
	"session_id" uuid NOT NULL,
	"setup_id" uuid NOT NULL,
	"position" smallint NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"shift_only" boolean NOT NULL,
	"shift_x_mm" double precision NOT NULL,
	"shift_y_mm" double precision NOT NULL,
	"turn_rad" double precision NOT NULL,
	"scale_across" double precision NOT NULL,
	"scale_along" double precision NOT NULL,
	"lean_rad" double precision NOT NULL,
	"file_x_mm" double precision NOT NULL,
	"file_y_mm" double precision NOT NULL,
	"shown" jsonb NOT NULL,
	"work_area" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "check_after" jsonb;--> statement-breakpoint
ALTER TABLE "found_terms" ADD CONSTRAINT "found_terms_pass_id_passes_id_fk" FOREIGN KEY ("pass_id") REFERENCES "public"."passes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "found_terms" ADD CONSTRAINT "found_terms_session_id_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "found_terms" ADD CONSTRAINT "found_terms_setup_id_setups_id_fk" FOREIGN KEY ("setup_id") REFERENCES "public"."setups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "found_terms_setup" ON "found_terms" USING btree ("setup_id","at");--> statement-breakpoint
INSERT INTO "found_terms"
SELECT p.id, s.id, s.setup_id, p.position, f.created_at, f.widest IN ('shift', 'roll'),
  (t.terms->>'shiftXMm')::float8, (t.terms->>'shiftYMm')::float8, (t.terms->>'turnRad')::float8,
  (t.terms->>'scaleAcross')::float8, (t.terms->>'scaleAlong')::float8, (t.terms->>'leanRad')::float8,
  coalesce((p.file_transform->>'a11')::float8 * c.x + (p.file_transform->>'a12')::float8 * c.y
    + (p.file_transform->>'tx')::float8 - c.x, 0),
  coalesce((p.file_transform->>'a21')::float8 * c.x + (p.file_transform->>'a22')::float8 * c.y
    + (p.file_transform->>'ty')::float8 - c.y, 0),
  p.settings_at_cut, t.area
FROM passes p
JOIN sessions s ON s.id = p.session_id AND s.kind IN ('calibration', 'quick-check')
JOIN proof_sheets g ON g.id = p.sheet_id
JOIN LATERAL (SELECT widest, result, created_at FROM fits WHERE pass_id = p.id ORDER BY created_at DESC LIMIT 1) f ON true
CROSS JOIN LATERAL (SELECT f.result->'models'->f.widest->'terms' AS terms, g.geometry->'spec'->'workArea' AS area OFFSET 0) t
CROSS JOIN LATERAL (SELECT ((t.area->>'x0')::float8 + (t.area->>'x1')::float8) / 2 AS x,
  ((t.area->>'y0')::float8 + (t.area->>'y1')::float8) / 2 AS y) c
WHERE t.terms IS NOT NULL AND jsonb_typeof(t.terms) = 'object';
