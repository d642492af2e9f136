ALTER TABLE "crafts" ADD COLUMN "stamp" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "crafts" ADD COLUMN "checked" text DEFAULT '' NOT NULL;