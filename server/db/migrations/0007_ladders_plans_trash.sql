CREATE TABLE "plans" (
	"id" serial PRIMARY KEY NOT NULL,
	"craft_id" integer NOT NULL,
	"version_id" integer NOT NULL,
	"number" integer NOT NULL,
	"plan" jsonb NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "symptoms" (
	"id" text PRIMARY KEY NOT NULL,
	"symptom" jsonb NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "trash" (
	"id" serial PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"deleted_at" text NOT NULL,
	"rows" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "faults" ADD COLUMN "mass" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "faults" ADD COLUMN "part" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "faults" ADD COLUMN "touched" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "faults" ADD COLUMN "next_weakest" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "faults" ADD COLUMN "pilot_swap" jsonb;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "plan" integer;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "seconds" double precision;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "moments" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "files" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "gates" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "locks" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "gone_on" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "crash" jsonb;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "key" text;--> statement-breakpoint
ALTER TABLE "suspects" ADD COLUMN "cost" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "suspects" ADD COLUMN "risk" text DEFAULT 'none' NOT NULL;--> statement-breakpoint
ALTER TABLE "suspects" ADD COLUMN "spent_minutes" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "suspects" ADD COLUMN "spent_cost" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "ladder" jsonb;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "whys" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "advice" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "trials" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "fate" jsonb DEFAULT '{"state":"going","why":"","at":null,"reused":[],"exit":""}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_craft_id_crafts_id_fk" FOREIGN KEY ("craft_id") REFERENCES "public"."crafts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "plans_number" ON "plans" USING btree ("craft_id","number");--> statement-breakpoint
CREATE UNIQUE INDEX "runs_key" ON "runs" USING btree ("craft_id","key");