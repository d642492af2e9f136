CREATE TABLE "devices" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"pass" text NOT NULL,
	"since" text NOT NULL,
	"seen" text NOT NULL,
	CONSTRAINT "devices_pass_unique" UNIQUE("pass")
);
--> statement-breakpoint
CREATE TABLE "summaries" (
	"craft_id" integer PRIMARY KEY NOT NULL,
	"stamp" text NOT NULL,
	"summary" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "workshop" (
	"key" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "faults" ALTER COLUMN "run" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "files" ALTER COLUMN "content" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "crafts" ADD COLUMN "next_run" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "crafts" ADD COLUMN "next_fault" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "crafts" ADD COLUMN "next_plan" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "crafts" ADD COLUMN "next_bench" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "faults" ADD COLUMN "run_id" integer;--> statement-breakpoint
ALTER TABLE "faults" ADD COLUMN "fix_version_id" integer;--> statement-breakpoint
ALTER TABLE "faults" ADD COLUMN "proof_run_id" integer;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "size" integer;--> statement-breakpoint
UPDATE "files" SET "size" = length(decode("content", 'base64'));--> statement-breakpoint
ALTER TABLE "files" ALTER COLUMN "size" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "plan_id" integer;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "parent_id" integer;--> statement-breakpoint
UPDATE "crafts" c SET "next_run" = 1 + greatest(coalesce((SELECT max("number") FROM "runs" WHERE "craft_id" = c."id"), 0), coalesce((SELECT max((r->>'number')::int) FROM "trash", jsonb_array_elements("trash"."rows") g, jsonb_array_elements(g->'rows') r WHERE g->>'table' = 'runs' AND (r->>'craftId')::int = c."id"), 0));--> statement-breakpoint
UPDATE "crafts" c SET "next_fault" = 1 + greatest(coalesce((SELECT max("number") FROM "faults" WHERE "craft_id" = c."id"), 0), coalesce((SELECT max((r->>'number')::int) FROM "trash", jsonb_array_elements("trash"."rows") g, jsonb_array_elements(g->'rows') r WHERE g->>'table' = 'faults' AND (r->>'craftId')::int = c."id"), 0));--> statement-breakpoint
UPDATE "crafts" c SET "next_plan" = 1 + greatest(coalesce((SELECT max("number") FROM "plans" WHERE "craft_id" = c."id"), 0), coalesce((SELECT max((r->>'number')::int) FROM "trash", jsonb_array_elements("trash"."rows") g, jsonb_array_elements(g->'rows') r WHERE g->>'table' = 'plans' AND (r->>'craftId')::int = c."id"), 0));--> statement-breakpoint
UPDATE "crafts" c SET "next_bench" = 1 + greatest(coalesce((SELECT max("number") FROM "bench" WHERE "craft_id" = c."id"), 0), coalesce((SELECT max((r->>'number')::int) FROM "trash", jsonb_array_elements("trash"."rows") g, jsonb_array_elements(g->'rows') r WHERE g->>'table' = 'bench' AND (r->>'craftId')::int = c."id"), 0));--> statement-breakpoint
UPDATE "versions" v SET "parent_id" = p."id" FROM "versions" p WHERE p."craft_id" = v."craft_id" AND p."label" = v."parent";--> statement-breakpoint
UPDATE "runs" r SET "plan_id" = p."id" FROM "plans" p WHERE p."craft_id" = r."craft_id" AND p."number" = r."plan";--> statement-breakpoint
UPDATE "faults" f SET "run_id" = r."id" FROM "runs" r WHERE r."craft_id" = f."craft_id" AND r."number" = f."run";--> statement-breakpoint
UPDATE "faults" f SET "proof_run_id" = r."id" FROM "runs" r WHERE r."craft_id" = f."craft_id" AND r."number" = f."proof_run";--> statement-breakpoint
UPDATE "faults" f SET "fix_version_id" = v."id" FROM "versions" v WHERE v."craft_id" = f."craft_id" AND v."label" = f."fix_version";--> statement-breakpoint
ALTER TABLE "summaries" ADD CONSTRAINT "summaries_craft_id_crafts_id_fk" FOREIGN KEY ("craft_id") REFERENCES "public"."crafts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "faults" ADD CONSTRAINT "faults_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "faults" ADD CONSTRAINT "faults_fix_version_id_versions_id_fk" FOREIGN KEY ("fix_version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "faults" ADD CONSTRAINT "faults_proof_run_id_runs_id_fk" FOREIGN KEY ("proof_run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_parent_id_versions_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bench_version" ON "bench" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "faults_run" ON "faults" USING btree ("run_id");--> statement-breakpoint
CREATE INDEX "faults_fix_version" ON "faults" USING btree ("fix_version_id");--> statement-breakpoint
CREATE INDEX "faults_proof_run" ON "faults" USING btree ("proof_run_id");--> statement-breakpoint
CREATE INDEX "plans_version" ON "plans" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "run_metrics_run" ON "run_metrics" USING btree ("run_id");--> statement-breakpoint
CREATE INDEX "runs_version" ON "runs" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "runs_plan" ON "runs" USING btree ("plan_id");--> statement-breakpoint
CREATE INDEX "suspects_fault" ON "suspects" USING btree ("fault_id");--> statement-breakpoint
CREATE INDEX "versions_parent" ON "versions" USING btree ("parent_id");