ALTER TABLE "bench" ADD COLUMN "free" jsonb;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "angles" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "suspects" ADD COLUMN "effect" jsonb;