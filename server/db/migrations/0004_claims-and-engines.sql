CREATE TABLE "render_workers" (
	"lock" integer PRIMARY KEY NOT NULL,
	"engine" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "handoffs" ADD COLUMN "desk_lock" integer;--> statement-breakpoint
ALTER TABLE "handoffs" ADD COLUMN "desk_folder" text;--> statement-breakpoint
ALTER TABLE "render_chunks" ADD COLUMN "engine" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "render_chunks" ADD COLUMN "attempts" integer DEFAULT 0 NOT NULL;