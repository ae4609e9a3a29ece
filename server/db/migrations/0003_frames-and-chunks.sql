CREATE TABLE "render_chunks" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"handoff_id" uuid NOT NULL,
	"frames" jsonb NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"frames_done" integer DEFAULT 0 NOT NULL,
	"worker_lock" integer
);
--> statement-breakpoint
CREATE TABLE "rendered_frames" (
	"key" text PRIMARY KEY NOT NULL,
	"png" "bytea" NOT NULL,
	"bytes" integer NOT NULL,
	"used_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "handoffs" ADD COLUMN "queue_number" serial NOT NULL;--> statement-breakpoint
ALTER TABLE "render_chunks" ADD CONSTRAINT "render_chunks_handoff_id_handoffs_id_fk" FOREIGN KEY ("handoff_id") REFERENCES "public"."handoffs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "render_chunks_by_handoff" ON "render_chunks" USING btree ("handoff_id");--> statement-breakpoint
CREATE INDEX "rendered_frames_by_use" ON "rendered_frames" USING btree ("used_at");--> statement-breakpoint
ALTER TABLE "rendered_frames" ALTER COLUMN "png" SET STORAGE EXTERNAL;