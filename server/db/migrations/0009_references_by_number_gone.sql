ALTER TABLE "faults" DROP COLUMN "run";--> statement-breakpoint
ALTER TABLE "faults" DROP COLUMN "fix_version";--> statement-breakpoint
ALTER TABLE "faults" DROP COLUMN "proof_run";--> statement-breakpoint
ALTER TABLE "runs" DROP COLUMN "plan";--> statement-breakpoint
ALTER TABLE "versions" DROP COLUMN "parent";