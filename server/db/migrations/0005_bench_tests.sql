CREATE TABLE "files" (
	"hash" text PRIMARY KEY NOT NULL,
	"type" text NOT NULL,
	"content" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "bench" ALTER COLUMN "weigh_in" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "bench" ADD COLUMN "thrust" jsonb;--> statement-breakpoint
ALTER TABLE "bench" ADD COLUMN "fast_throttle" jsonb;--> statement-breakpoint
ALTER TABLE "bench" ADD COLUMN "calibration" jsonb;--> statement-breakpoint
ALTER TABLE "bench" ADD COLUMN "files" jsonb DEFAULT '[]'::jsonb NOT NULL;