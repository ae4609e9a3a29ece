CREATE TABLE "shelf_pieces" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"production_id" uuid NOT NULL,
	"name" text NOT NULL,
	"content" jsonb NOT NULL,
	"came_from" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "art" ADD COLUMN "look" jsonb;--> statement-breakpoint
ALTER TABLE "shelf_pieces" ADD CONSTRAINT "shelf_pieces_production_id_productions_id_fk" FOREIGN KEY ("production_id") REFERENCES "public"."productions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "shelf_pieces_by_production" ON "shelf_pieces" USING btree ("production_id");