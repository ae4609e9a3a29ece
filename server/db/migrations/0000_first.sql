CREATE TABLE "art" (
	"id" text PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"png" "bytea" NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "edits" (
	"id" uuid PRIMARY KEY NOT NULL,
	"shot_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"state" text DEFAULT 'done' NOT NULL,
	"action" text NOT NULL,
	"subject" text NOT NULL,
	"patch" jsonb NOT NULL,
	"inverse" jsonb NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "facts" (
	"key" text PRIMARY KEY NOT NULL,
	"value" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "handoffs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"shot_id" uuid NOT NULL,
	"scene" jsonb NOT NULL,
	"shot_name" text NOT NULL,
	"request" jsonb NOT NULL,
	"progress" jsonb NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "ops" (
	"op_id" uuid PRIMARY KEY NOT NULL,
	"shot_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "productions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "shots" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"production_id" uuid NOT NULL,
	"name" text NOT NULL,
	"scene" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "edits" ADD CONSTRAINT "edits_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handoffs" ADD CONSTRAINT "handoffs_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "ops" ADD CONSTRAINT "ops_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shots" ADD CONSTRAINT "shots_production_id_productions_id_fk" FOREIGN KEY ("production_id") REFERENCES "public"."productions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "edits_in_order" ON "edits" USING btree ("shot_id","seq");--> statement-breakpoint
CREATE INDEX "handoffs_by_shot" ON "handoffs" USING btree ("shot_id");--> statement-breakpoint
CREATE INDEX "shots_by_production" ON "shots" USING btree ("production_id");