ALTER TABLE "edits" ADD COLUMN "bytes" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
UPDATE "edits" SET "bytes" = length("patch"::text) + length("inverse"::text);
