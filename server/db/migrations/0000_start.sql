CREATE TABLE "crafts" (
	"id" serial PRIMARY KEY NOT NULL,
	"slug" text NOT NULL,
	"name" text NOT NULL,
	"summary" text NOT NULL,
	"held_up_by" text NOT NULL,
	CONSTRAINT "crafts_slug_unique" UNIQUE("slug")
);
--> statement-breakpoint
CREATE TABLE "faults" (
	"id" serial PRIMARY KEY NOT NULL,
	"craft_id" integer NOT NULL,
	"number" integer NOT NULL,
	"run" integer NOT NULL,
	"title" text NOT NULL,
	"symptom" text,
	"seen" text NOT NULL,
	"severity" text NOT NULL,
	"damage" text NOT NULL,
	"cause" text NOT NULL,
	"fix" text NOT NULL,
	"fix_version" text,
	"proof_run" integer,
	"state" text NOT NULL,
	"minutes" double precision NOT NULL,
	"cost" double precision NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run_metrics" (
	"id" serial PRIMARY KEY NOT NULL,
	"run_id" integer NOT NULL,
	"position" integer NOT NULL,
	"metric" text NOT NULL,
	"dimension" text NOT NULL,
	"predicted_value" double precision,
	"predicted_sd" double precision,
	"predicted_evidence" text,
	"measured_value" double precision,
	"measured_sd" double precision,
	"measured_by" text
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" serial PRIMARY KEY NOT NULL,
	"craft_id" integer NOT NULL,
	"version_id" integer NOT NULL,
	"number" integer NOT NULL,
	"date" text NOT NULL,
	"stage" integer NOT NULL,
	"purpose" text NOT NULL,
	"place" text NOT NULL,
	"pilot" text NOT NULL,
	"conditions" jsonb NOT NULL,
	"pack" jsonb NOT NULL,
	"outcome" text NOT NULL,
	"cautions_read" boolean NOT NULL,
	"notes" text NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "suspects" (
	"id" serial PRIMARY KEY NOT NULL,
	"fault_id" integer NOT NULL,
	"position" integer NOT NULL,
	"key" text NOT NULL,
	"cause" text NOT NULL,
	"for_it" text NOT NULL,
	"against_it" text NOT NULL,
	"test" text NOT NULL,
	"minutes" double precision,
	"result" text NOT NULL,
	"state" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "versions" (
	"id" serial PRIMARY KEY NOT NULL,
	"craft_id" integer NOT NULL,
	"label" text NOT NULL,
	"parent" text,
	"question" text NOT NULL,
	"finding" text NOT NULL,
	"reason" text NOT NULL,
	"claims" jsonb NOT NULL,
	"created_at" text NOT NULL,
	"frozen_at" text,
	"revision" integer DEFAULT 0 NOT NULL,
	"design" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "faults" ADD CONSTRAINT "faults_craft_id_crafts_id_fk" FOREIGN KEY ("craft_id") REFERENCES "public"."crafts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_metrics" ADD CONSTRAINT "run_metrics_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_craft_id_crafts_id_fk" FOREIGN KEY ("craft_id") REFERENCES "public"."crafts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "suspects" ADD CONSTRAINT "suspects_fault_id_faults_id_fk" FOREIGN KEY ("fault_id") REFERENCES "public"."faults"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_craft_id_crafts_id_fk" FOREIGN KEY ("craft_id") REFERENCES "public"."crafts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "faults_number" ON "faults" USING btree ("craft_id","number");--> statement-breakpoint
CREATE UNIQUE INDEX "runs_number" ON "runs" USING btree ("craft_id","number");--> statement-breakpoint
CREATE UNIQUE INDEX "versions_label" ON "versions" USING btree ("craft_id","label");