ALTER TABLE "runs" ADD COLUMN "course" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "laps" jsonb DEFAULT '[]'::jsonb NOT NULL;