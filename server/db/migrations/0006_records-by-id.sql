ALTER TABLE "edits" ALTER COLUMN "inverse" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "edits" ADD COLUMN "at_revision" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "edits" ADD COLUMN "author_id" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "edits" ADD COLUMN "author_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "ops" ADD COLUMN "kind" text;--> statement-breakpoint
ALTER TABLE "ops" ADD COLUMN "edit_id" uuid;--> statement-breakpoint
ALTER TABLE "ops" ADD COLUMN "patch" jsonb;--> statement-breakpoint
ALTER TABLE "ops" ADD COLUMN "author_id" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "ops" ADD COLUMN "author_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX "ops_in_order" ON "ops" USING btree ("shot_id","revision");--> statement-breakpoint
UPDATE "edits" SET "at_revision" = CASE "state" WHEN 'done' THEN "seq" ELSE -"seq" END;
