CREATE TABLE "packs" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"pack" jsonb NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX "packs_name" ON "packs" USING btree ("name");