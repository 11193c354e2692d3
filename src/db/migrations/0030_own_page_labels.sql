ALTER TABLE "own_pages" DROP CONSTRAINT "own_pages_range";--> statement-breakpoint
ALTER TABLE "own_pages" DROP CONSTRAINT "own_pages_within";--> statement-breakpoint
ALTER TABLE "own_pages" ALTER COLUMN "across" SET DATA TYPE jsonb USING jsonb_build_object('pick', "across"::text, 'from', "lowest"::text, 'to', "highest"::text, 'middle', '');--> statement-breakpoint
ALTER TABLE "own_pages" ALTER COLUMN "along" SET DATA TYPE jsonb USING jsonb_build_object('pick', "along"::text, 'from', "lowest"::text, 'to', "highest"::text, 'middle', '');--> statement-breakpoint
ALTER TABLE "own_pages" DROP COLUMN "lowest";--> statement-breakpoint
ALTER TABLE "own_pages" DROP COLUMN "highest";