CREATE TABLE "bench" (
	"id" serial PRIMARY KEY NOT NULL,
	"craft_id" integer NOT NULL,
	"version_id" integer NOT NULL,
	"number" integer NOT NULL,
	"date" text NOT NULL,
	"weigh_in" jsonb NOT NULL,
	"notes" text NOT NULL,
	"tested" jsonb NOT NULL,
	"adopted" text NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "bench" ADD CONSTRAINT "bench_craft_id_crafts_id_fk" FOREIGN KEY ("craft_id") REFERENCES "public"."crafts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench" ADD CONSTRAINT "bench_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "bench_number" ON "bench" USING btree ("craft_id","number");